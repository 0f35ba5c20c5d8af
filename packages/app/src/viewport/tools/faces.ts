import { faceRow, isDiagonal, thingMeshAt, topology } from '@lumbra/core';
import { h, shallowRef } from 'vue';
import { followDrag } from '../../pointer/followDrag';
import { FACE_TOOLS, useFacesStore } from '../../stores/faces';
import { useSelectionStore } from '../../stores/selection';
import type { CanvasPlace, UseViewTool } from '../viewPart';
import { isInside } from './insideOutline';
import PointOverlay from './PointOverlay.vue';

/** A click takes the edge within so many CSS pixels. */
const REACH = 30;

/** Selects faces of the selected thing: one by one, in a box, in a lasso, or in a row. */
export const faces: UseViewTool = ({ stage, scene }) => {
  const selection = useSelectionStore();
  const store = useFacesStore();
  const outline = shallowRef<readonly (readonly [number, number])[]>([]);

  const hasButton = () => store.working && store.thing !== null && FACE_TOOLS.includes(selection.tool);

  function press(event: PointerEvent, place: (event: MouseEvent) => CanvasPlace): boolean {
    const { thing, mesh } = store;
    if (!thing || !mesh || !hasButton()) return false;
    const { tool } = selection;
    const start = place(event);
    const path: [number, number][] = [[start.x, start.y]];
    const surface = () => {
      const { shot, assets, frame } = scene();
      return thingMeshAt(shot, thing, assets, frame);
    };
    followDrag(event, {
      from: 0,
      move: (_dx, _dy, at) => {
        const { x, y } = place(at);
        if (tool === 'lasso') {
          path.push([x, y]);
          outline.value = [...path];
        } else if (tool === 'box')
          outline.value = [
            [start.x, start.y],
            [x, start.y],
            [x, y],
            [start.x, y],
          ];
      },
      end: (_moved, at) => {
        const corners = outline.value;
        outline.value = [];
        const { x, y } = place(at);
        if (tool === 'row') {
          const { edgePoints } = topology(mesh);
          const edge = stage.picking.nearestEdge(
            surface().positions,
            edgePoints,
            { x, y },
            REACH,
            selection.takesHidden,
            (one) => !isDiagonal(mesh, one),
          );
          if (edge >= 0) store.take(faceRow(mesh, edge), at);
        } else if (tool === 'point') {
          const face = stage.picking.faceAt(surface(), x, y);
          if (face >= 0) store.take([face], at);
        } else if (corners.length > 2) {
          const inside = (px: number, py: number) => isInside(corners, px, py);
          store.take(stage.picking.facesWhere(surface(), inside, selection.takesHidden), at);
        }
      },
      cancel: () => (outline.value = []),
    });
    return true;
  }

  return { press, hasButton, overlay: () => h(PointOverlay, { outline: outline.value, brush: null, ramp: null }) };
};
