// @vitest-environment happy-dom
import fc from 'fast-check';
import { ref } from 'vue';
import { describe, expect, it } from 'vitest';
import { openBench } from '../testing/openBench';
import { useFrameScale } from './useFrameScale';

describe('the scale of the timeline', () => {
  it('leads from frames to places and back, for any range and width', async () => {
    const { document } = await openBench([]);
    const width = ref(900);
    const scale = useFrameScale(width);
    fc.assert(
      fc.property(
        fc.integer({ min: -50, max: 1000 }),
        fc.integer({ min: 1, max: 3000 }),
        fc.integer({ min: 0, max: 100 }),
        fc.integer({ min: 200, max: 4000 }),
        (first, length, preRoll, pixels) => {
          document.edit('Range', (draft) => {
            [draft.firstFrame, draft.lastFrame, draft.preRoll] = [first, first + length, preRoll];
          });
          width.value = pixels;
          const { low, high, x, frameAt, ticks } = scale.value;
          expect([low, high]).toEqual([first - preRoll, first + length]);
          for (const frame of [low, high, (low + high) / 2]) expect(frameAt(x(frame))).toBeCloseTo(frame, 6);
          expect(x(low)).toBeGreaterThan(0);
          expect(x(high)).toBeLessThan(pixels);
          // Ticks are in the range, evenly apart, and leave room for their labels.
          expect(ticks.every((frame) => frame >= low && frame <= high)).toBe(true);
          const steps = ticks.slice(1).map((frame, i) => frame - ticks[i]!);
          expect(new Set(steps).size).toBeLessThanOrEqual(1);
          if (steps.length > 0) expect(x(ticks[1]!) - x(ticks[0]!)).toBeGreaterThanOrEqual(59.9);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('of a shot of one frame, in a track without width, still has numbers', async () => {
    await openBench([], { lastFrame: 1 });
    const { x, frameAt } = useFrameScale(ref(0)).value;
    expect(Number.isFinite(x(1))).toBe(true);
    expect(Number.isFinite(frameAt(30))).toBe(true);
  });
});
