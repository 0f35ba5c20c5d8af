/** Follows the pointer from a press until it is let go; distances are from the press, in CSS pixels. */
export function followDrag(
  event: PointerEvent,
  acts: { move: (dx: number, dy: number, at: PointerEvent) => void; end: (moved: boolean, at: PointerEvent) => void },
): void {
  const target = event.currentTarget as Element;
  const [startX, startY] = [event.clientX, event.clientY];
  let moved = false;
  const move = (at: PointerEvent) => {
    const [dx, dy] = [at.clientX - startX, at.clientY - startY];
    moved ||= Math.hypot(dx, dy) >= 3;
    if (moved) acts.move(dx, dy, at);
  };
  const end = (at: PointerEvent) => {
    target.removeEventListener('pointermove', move as EventListener);
    acts.end(moved, at);
  };
  target.setPointerCapture(event.pointerId);
  target.addEventListener('pointermove', move as EventListener);
  target.addEventListener('pointerup', end as EventListener, { once: true });
}
