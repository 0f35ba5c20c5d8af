import { followDrag } from '../../pointer/followDrag';
import { useRunStore } from '../../stores/run';
import { useSelectionStore } from '../../stores/selection';
import { runHost } from '../../workers/hosts';
import type { CanvasPlace, UseViewTool } from '../viewPart';

/** Pulls cloth under the pointer while it runs live; the gripped place stays as far from the camera as it was. */
export const pullingHand: UseViewTool = ({ stage }) => {
  const run = useRunStore();
  const selection = useSelectionStore();
  // A run that has ended meanwhile is pulled no more.
  const tell = (what: Parameters<typeof runHost.call<void>>[0]) => void runHost.call(what).catch(() => undefined);

  /** Grips the cloth under the pointer; false where there is none, so that the press may do something else. */
  function press(event: PointerEvent, place: (event: MouseEvent) => CanvasPlace): boolean {
    if (run.status !== 'live') return false;
    const { x, y } = place(event);
    const cloth = stage.picking.thingAt(x, y);
    const at = cloth === null ? null : stage.picking.placeOnCloth(cloth, x, y);
    if (cloth === null || !at || !stage.picking.isCloth(cloth)) return false;
    stage.controls.enabled = false;
    tell((api) => api.grip(cloth, [...at], selection.gripRadius));
    const letGo = () => {
      stage.controls.enabled = true;
      tell((api) => api.moveGrip(null));
    };
    followDrag(event, {
      from: 0,
      // Escape stops the run with the cloth as it is held.
      escapes: false,
      move: (_dx, _dy, pointer) => {
        const now = place(pointer);
        const wanted = stage.picking.placeAtDepth(now.x, now.y, at);
        tell((api) => api.moveGrip(wanted.map((value, axis) => value - at[axis]!)));
      },
      end: letGo,
      cancel: letGo,
    });
    return true;
  }

  return { press };
};
