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
    const target = event.currentTarget as HTMLElement;
    target.setPointerCapture(event.pointerId);
    stage.controls.enabled = false;
    void runWorker().grip(cloth, [...at], selection.gripRadius);
    const move = (pointer: PointerEvent) => {
      const now = place(pointer);
      const wanted = stage.picking.placeAtDepth(now.x, now.y, at);
      void runWorker().moveGrip(wanted.map((value, axis) => value - at[axis]!));
    };
    const end = () => {
      target.removeEventListener('pointermove', move);
      stage.controls.enabled = true;
      void runWorker().moveGrip(null);
    };
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', end, { once: true });
    target.addEventListener('pointercancel', end, { once: true });
    return true;
  }

  return { press };
}
