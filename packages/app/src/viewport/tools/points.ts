import { borderStretch, maskBytes, maskValues, nearestBorderPoint, shapeMesh } from '@lumbra/core';
import { h, ref, shallowRef, watch } from 'vue';
import { useHoldActs } from '../../acts/useHoldActs';
import { followDrag } from '../../pointer/followDrag';
import { useDocumentStore } from '../../session/document';
import { useNoticeStore } from '../../stores/notice';
import { POINT_TOOLS, useSelectionStore } from '../../stores/selection';
import type { CanvasPlace, UseViewTool } from '../viewPart';
import { isInside } from './insideOutline';
import { PaintStroke } from './paintStroke';
import PointOverlay from './PointOverlay.vue';
import { pointsAt, pointsInside, rowAt, type ShownCloth } from './pointsTaken';
import { useRampTool } from './useRampTool';

/** A click takes the border within so many CSS pixels. */
const BORDER_REACH = 42;

/** A place of the canvas that the brush passes, in CSS pixels, and how hard it is pressed there, from 0 to 1. */
interface Dab {
  x: number;
  y: number;
  pressure: number;
}

/** Selects and paints points of the selected cloth. */
export const points: UseViewTool = ({ stage, scene }) => {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const notice = useNoticeStore();
  const { setMask } = useHoldActs();
  /** What is drawn around points, as corners in CSS pixels. */
  const outline = shallowRef<readonly (readonly [number, number])[]>([]);
  /** Where the brush is, and its size in CSS pixels. */
  const brushAt = shallowRef<{ x: number; y: number; pixels: number } | null>(null);
  /** The first end of a stretch of border, until the second is clicked. */
  const stretchFrom = ref(-1);

  const ramps = useRampTool({ stage, scene });

  const hasButton = () => POINT_TOOLS.includes(selection.tool);
  const meshOf = () => shapeMesh(selection.cloth!.shape, document.assets);

  /** Selects found points as the modifiers say: instead, besides, or not any more. */
  function take(found: readonly number[], event: { shiftKey: boolean; altKey: boolean }): void {
    if (event.altKey) {
      const leaving = new Set(found);
      selection.setPoints(selection.points.filter((point) => !leaving.has(point)));
    } else selection.setPoints(event.shiftKey ? [...selection.points, ...found] : found);
  }

  /** Starts a tool where the pointer was pressed. `place` gives a pointer's place on the canvas. */
  function press(event: PointerEvent, place: (event: MouseEvent) => CanvasPlace): boolean {
    const { cloth, tool } = selection;
    if (!cloth || !hasButton()) return false;
    if (tool === 'straight ramp' || tool === 'round ramp') ramps.press(event, place);
    else if (tool === 'brush') pressBrush(event, place);
    else pressSelecting(event, place, cloth.id);
    return true;
  }

  function pressSelecting(event: PointerEvent, place: (event: MouseEvent) => CanvasPlace, cloth: string): void {
    const { tool } = selection;
    const start = place(event);
    const path: [number, number][] = [[start.x, start.y]];
    const move = (at: PointerEvent) => {
      const now = place(at);
      if (tool === 'box') {
        outline.value = [
          [start.x, start.y],
          [now.x, start.y],
          [now.x, now.y],
          [start.x, now.y],
        ];
      } else if (tool === 'lasso') {
        path.push(...placesSince(at, place).map(({ x, y }) => [x, y] as [number, number]));
        outline.value = [...path];
      }
    };
    const end = (at: PointerEvent) => {
      const corners = outline.value;
      outline.value = [];
      if (tool === 'stretch') return takeStretch(cloth, place(at), at);
      const [shown, { picking }] = [shownOf(cloth), stage];
      if (!shown) return;
      const { takes, takesHidden } = selection;
      if (tool === 'point' || tool === 'row') {
        const one = place(at);
        const found =
          tool === 'row' ? rowAt(picking, shown, one, takesHidden) : pointsAt(picking, shown, takes, one, takesHidden);
        if (found.length > 0) take(found, at);
      } else if (corners.length > 2) {
        const inside = (x: number, y: number) => isInside(corners, x, y);
        take(pointsInside(picking, shown, takes, inside, takesHidden), at);
      }
    };
    const cancel = () => (outline.value = []);
    followDrag(event, { from: 0, move: (_dx, _dy, at) => move(at), end: (_moved, at) => end(at), cancel });
  }

  /** Paints from the press until the pointer is let go; given up, the mask is as it was. */
  function pressBrush(event: PointerEvent, place: (event: MouseEvent) => CanvasPlace): void {
    const [stroke, mask] = [beginStroke(), selection.maskId];
    if (!stroke || mask === null) return;
    paint(stroke, [{ ...place(event), pressure: pressureOf(event) }]);
    followDrag(event, {
      from: 0,
      move: (_dx, _dy, at) => paint(stroke, placesSince(at, place)),
      end: () => {
        setMask(mask, 'Paint mask', stroke.values);
        selection.maskDraft = null;
      },
      cancel: () => (selection.maskDraft = null),
    });
  }

  /** How hard a pen is pressed, where the brush heeds it; a mouse always paints fully. */
  function pressureOf({ pointerType, pressure }: PointerEvent): number {
    return selection.brush.heedsPen && pointerType === 'pen' ? pressure : 1;
  }

  /** All places since the last frame, not only the newest: lines and strokes stay true to the hand. */
  function placesSince(event: PointerEvent, place: (event: MouseEvent) => CanvasPlace): Dab[] {
    const all = event.getCoalescedEvents?.() ?? [];
    return (all.length > 0 ? all : [event]).map((one) => ({ ...place(one), pressure: pressureOf(one) }));
  }

  /** A cloth as it is shown; null while its points are on their way. */
  function shownOf(cloth: string): ShownCloth | null {
    const positions = scene().positions.get(cloth);
    return positions ? { id: cloth, mesh: meshOf(), positions } : null;
  }

  function takeStretch(cloth: string, at: CanvasPlace, event: PointerEvent): void {
    const positions = scene().positions.get(cloth);
    const near = stage.picking.nearestPoint(cloth, at.x, at.y, BORDER_REACH, selection.takesHidden);
    if (near < 0 || !positions) return;
    const found = nearestBorderPoint(meshOf(), positions, near);
    if (stretchFrom.value < 0) {
      stretchFrom.value = found;
      if (!event.shiftKey) selection.setPoints([found]);
      return;
    }
    take(borderStretch(meshOf(), stretchFrom.value, found), event);
    stretchFrom.value = -1;
  }

  function beginStroke(): PaintStroke | null {
    const cloth = selection.cloth!;
    const mask = cloth.masks.find(({ id }) => id === selection.maskId);
    if (!mask || !document.writable()) return null;
    if (mask.ramp) {
      notice.remark(`${mask.name} is a ramp. Make it a painted mask first, or draw it anew.`);
      return null;
    }
    const values = maskBytes(maskValues(cloth, mask, meshOf(), scene().frame));
    return new PaintStroke(meshOf(), values, selection.brush);
  }

  function paint(stroke: PaintStroke, dabs: readonly Dab[]): void {
    const cloth = selection.cloth!;
    const positions = scene().positions.get(cloth.id);
    if (!positions) return;
    for (const { x, y, pressure } of dabs) {
      const place = stage.picking.placeOnCloth(cloth.id, x, y);
      if (place) stroke.to(place, positions, radiusAt(place), pressure);
    }
    selection.maskDraft = stroke.values.slice();
  }

  /** The radius of the brush at a place on the cloth, in m. */
  function radiusAt(place: readonly [number, number, number]): number {
    const { unit, radius, pixels } = selection.brush;
    return unit === 'mm' ? radius : pixels / stage.picking.pixelsAt(place);
  }

  /** Lets the ring of the brush follow the pointer. */
  function hover(at: CanvasPlace): void {
    const { cloth } = selection;
    const place = cloth && selection.tool === 'brush' ? stage.picking.placeOnCloth(cloth.id, at.x, at.y) : null;
    brushAt.value = place && { ...at, pixels: stage.picking.pixelsAt(place) * radiusAt(place) };
  }

  watch(
    () => selection.tool,
    () => {
      stretchFrom.value = -1;
      brushAt.value = null;
    },
  );

  const overlay = () => h(PointOverlay, { outline: outline.value, brush: brushAt.value, ramp: ramps.line.value });
  return { press, hover, leave: () => (brushAt.value = null), hasButton, overlay };
};
