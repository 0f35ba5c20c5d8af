/** Less than this, in CSS pixels, is a click of an unsteady hand. */
const LEAST_DRAG = 3;

/** What a drag does; distances are from the press, in CSS pixels. */
export interface Drag {
  move: (dx: number, dy: number, at: PointerEvent) => void;
  /** It was let go. */
  end: (moved: boolean, at: PointerEvent) => void;
  /** It was given up: by Escape, or because the browser took the pointer away, as it does with pens and fingers. */
  cancel: () => void;
  /** From how far on it is a drag; 0 where every place counts, as in a stroke. */
  from?: number;
  /** Whether Escape gives it up; not where there is nothing to be taken back. */
  escapes?: boolean;
}

let open = 0;

/** Whether something is being dragged that Escape would give up. */
export function isDragging(): boolean {
  return open > 0;
}

/** Follows the pointer from a press until it is let go or the drag is given up. */
export function followDrag(event: PointerEvent, { move, end, cancel, from = LEAST_DRAG, escapes = true }: Drag): void {
  const target = event.currentTarget as Element;
  const { pointerId, clientX: startX, clientY: startY } = event;
  const listening = new AbortController();
  const { signal } = listening;
  const own = (act: (at: PointerEvent) => void) => (at: Event) => {
    if ((at as PointerEvent).pointerId === pointerId) act(at as PointerEvent);
  };
  let moved = false;
  if (escapes) open++;
  const stop = () => {
    if (escapes && !signal.aborted) open--;
    listening.abort();
    if (target.hasPointerCapture(pointerId)) target.releasePointerCapture(pointerId);
  };
  const follow = own((at) => {
    const [dx, dy] = [at.clientX - startX, at.clientY - startY];
    moved ||= Math.hypot(dx, dy) >= from;
    if (moved) move(dx, dy, at);
  });
  const letGo = own((at) => {
    stop();
    end(moved, at);
  });
  const giveUp = () => {
    stop();
    cancel();
  };
  target.setPointerCapture(pointerId);
  target.addEventListener('pointermove', follow, { signal });
  target.addEventListener('pointerup', letGo, { signal });
  target.addEventListener('pointercancel', own(giveUp), { signal });
  const onKey = (key: KeyboardEvent) => {
    if (key.key !== 'Escape') return;
    // Escape gives the drag up and nothing else: tools stay chosen, and what runs runs on.
    key.preventDefault();
    key.stopImmediatePropagation();
    giveUp();
  };
  if (escapes) window.addEventListener('keydown', onKey, { signal, capture: true });
}
