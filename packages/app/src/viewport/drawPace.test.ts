import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { DrawPace } from './drawPace';

const PAGE_FRAME = 16;

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] });
  vi.stubGlobal('requestAnimationFrame', (draw: () => void) => setTimeout(draw, PAGE_FRAME));
  vi.stubGlobal('cancelAnimationFrame', (frame: number) => clearTimeout(frame));
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** A drawing that the page waits for so long, in ms; returns when it is over. */
async function drawFor(pace: DrawPace, took: number): Promise<void> {
  pace.soon(() => vi.advanceTimersByTime(took));
  vi.advanceTimersByTime(20);
  // The message that tells of the end of the page's frame is a real one.
  await new Promise((resolve) => setImmediate(resolve));
}

/** How long after now the next drawing begins, in ms. */
function nextAfter(pace: DrawPace): number {
  const from = performance.now();
  let began = NaN;
  pace.soon(() => (began = performance.now()));
  vi.advanceTimersByTime(5000);
  return began - from;
}

test('short drawings follow each other in the next frame of the page', async () => {
  const pace = new DrawPace();
  await drawFor(pace, 30);
  expect(nextAfter(pace)).toBeLessThanOrEqual(17);
});

test('after a drawing that it waited for, the page has as long for itself, and no longer than a second', async () => {
  for (const [took, pause] of [
    [600, 600],
    [4000, 1000],
  ] as const) {
    const pace = new DrawPace();
    await drawFor(pace, took);
    const next = nextAfter(pace);
    expect(next).toBeGreaterThanOrEqual(pause - 20);
    expect(next).toBeLessThanOrEqual(pause + 40);
  }
});

test('what is cancelled is not drawn', async () => {
  const pace = new DrawPace();
  await drawFor(pace, 600);
  const draw = vi.fn();
  pace.soon(draw);
  vi.advanceTimersByTime(100);
  pace.cancel();
  vi.advanceTimersByTime(5000);
  expect(draw).not.toHaveBeenCalled();
});
