// @vitest-environment happy-dom
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { followDrag, type Drag } from './followDrag';

let target: HTMLElement;
const acts = { move: vi.fn(), end: vi.fn(), cancel: vi.fn() };

function fire(type: string, x = 0, y = 0, pointerId = 1): void {
  target.dispatchEvent(new PointerEvent(type, { clientX: x, clientY: y, pointerId, bubbles: true }));
}

function pressed(more: Partial<Drag> = {}): void {
  target.addEventListener('pointerdown', (event) => followDrag(event, { ...acts, ...more }), { once: true });
  fire('pointerdown', 100, 50);
}

describe('a drag', () => {
  beforeEach(() => {
    vi.clearAllMocks();
    target = document.createElement('div');
    document.body.replaceChildren(target);
    const captured = new Set<number>();
    target.setPointerCapture = (id) => void captured.add(id);
    target.hasPointerCapture = (id) => captured.has(id);
    target.releasePointerCapture = (id) => void captured.delete(id);
  });

  it('follows the pointer from its press until it is let go, and lets the pointer go', () => {
    pressed();
    expect(target.hasPointerCapture(1)).toBe(true);
    fire('pointermove', 110, 45);
    fire('pointermove', 120, 40);
    fire('pointerup', 120, 40);
    fire('pointermove', 150, 0);
    expect(acts.move.mock.calls.map(([dx, dy]) => [dx as number, dy as number])).toEqual([
      [10, -5],
      [20, -10],
    ]);
    expect(acts.end).toHaveBeenCalledExactlyOnceWith(true, expect.anything());
    expect(acts.cancel).not.toHaveBeenCalled();
    expect(target.hasPointerCapture(1)).toBe(false);
  });

  it('is a click while an unsteady hand goes less than 3 px, unless every place counts', () => {
    pressed();
    fire('pointermove', 102, 51);
    fire('pointerup', 102, 51);
    expect(acts.move).not.toHaveBeenCalled();
    expect(acts.end).toHaveBeenCalledWith(false, expect.anything());
    pressed({ from: 0 });
    fire('pointermove', 101, 50);
    expect(acts.move).toHaveBeenCalledOnce();
    fire('pointerup', 101, 50);
  });

  it('goes on as a drag when it comes back to where it began', () => {
    pressed();
    fire('pointermove', 120, 50);
    fire('pointermove', 100, 50);
    fire('pointerup', 100, 50);
    expect(acts.move).toHaveBeenLastCalledWith(0, 0, expect.anything());
    expect(acts.end).toHaveBeenCalledWith(true, expect.anything());
  });

  it('is given up when the browser takes the pointer', () => {
    pressed();
    fire('pointermove', 120, 50);
    fire('pointercancel');
    fire('pointermove', 140, 50);
    fire('pointerup', 140, 50);
    expect(acts.move).toHaveBeenCalledOnce();
    expect(acts.cancel).toHaveBeenCalledOnce();
    expect(acts.end).not.toHaveBeenCalled();
  });

  it('is given up by Escape, which then does nothing else', () => {
    const other = vi.fn();
    window.addEventListener('keydown', other);
    const key = () => new KeyboardEvent('keydown', { key: 'Escape', bubbles: true, cancelable: true });
    pressed();
    fire('pointermove', 120, 50);
    const escape = key();
    target.dispatchEvent(escape);
    expect(acts.cancel).toHaveBeenCalledOnce();
    expect(escape.defaultPrevented).toBe(true);
    expect(other).not.toHaveBeenCalled();
    // Afterwards Escape is everybody's again.
    target.dispatchEvent(key());
    expect(acts.cancel).toHaveBeenCalledOnce();
    expect(other).toHaveBeenCalledOnce();
    window.removeEventListener('keydown', other);
  });

  it('leaves Escape to others where there is nothing to be taken back', () => {
    const other = vi.fn();
    window.addEventListener('keydown', other);
    pressed({ escapes: false });
    target.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
    expect(acts.cancel).not.toHaveBeenCalled();
    expect(other).toHaveBeenCalledOnce();
    fire('pointerup', 100, 50);
    expect(acts.end).toHaveBeenCalledOnce();
    window.removeEventListener('keydown', other);
  });

  it('leaves other pointers and other keys alone', () => {
    pressed();
    fire('pointermove', 130, 50, 2);
    fire('pointerup', 130, 50, 2);
    fire('pointercancel', 130, 50, 2);
    target.dispatchEvent(new KeyboardEvent('keydown', { key: 'p', bubbles: true }));
    expect(acts.move).not.toHaveBeenCalled();
    expect(acts.end).not.toHaveBeenCalled();
    expect(acts.cancel).not.toHaveBeenCalled();
    fire('pointerup', 100, 50);
    expect(acts.end).toHaveBeenCalledOnce();
  });
});
