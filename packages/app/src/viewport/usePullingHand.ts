import { followDrag } from '../pointer/followDrag';
import { useSelectionStore } from '../stores/selection';
import { runWorker } from '../workers/runClient';
import type { StageView } from './stageView';

/** Pulls cloth under the pointer while it runs live; the gripped place stays as far from the camera as it was. */
export function usePullingHand(view: () => StageView | null) {
  const selection = useSelectionStore();

  /** Grips the cloth under the pointer; false where there is none, so that the press may do something else. */
  function press(event: PointerEvent, place: (event: PointerEvent) => { x: number; y: number }): boolean {
    const stage = view();
    if (!stage) return false;
    const { x, y } = place(event);
    const cloth = stage.picking.thingAt(x, y);
    const at = cloth === null ? null : stage.picking.placeOnCloth(cloth, x, y);
    if (cloth === null || !at || !stage.picking.isCloth(cloth)) return false;
    stage.controls.enabled = false;
    void runWorker().grip(cloth, [...at], selection.gripRadius);
    const letGo = () => {
      stage.controls.enabled = true;
      void runWorker().moveGrip(null);
    };
    followDrag(event, {
      from: 0,
      // Escape stops the run with the cloth as it is held.
      escapes: false,
      move: (_dx, _dy, pointer) => {
        const now = place(pointer);
        const wanted = stage.picking.placeAtDepth(now.x, now.y, at);
        void runWorker().moveGrip(wanted.map((value, axis) => value - at[axis]!));
      },
      end: letGo,
      cancel: letGo,
    });
    return true;
  }

  return { press };
}
