import fc from 'fast-check';
import { expect, it } from 'vitest';
import { FrameCache } from './frameCache';

const frame = (floats: number) => [new Float32Array(floats)];

it('forgets what was looked at longest ago when it is full', () => {
  const cache = new FrameCache(1000);
  for (const number of [1, 2]) cache.put(number, frame(100));
  cache.get(1);
  cache.put(3, frame(100));
  expect([1, 2, 3].map((number) => cache.has(number))).toEqual([true, false, true]);
});

it('keeps what is pinned, however full it is, until it is not pinned any more', () => {
  const cache = new FrameCache(1000);
  for (const number of [1, 2, 3, 4]) cache.put(number, frame(100), true);
  expect(cache.bytes).toBe(1600);
  cache.unpin([1, 2]);
  expect([1, 2, 3, 4].map((number) => cache.has(number))).toEqual([false, false, true, true]);
});

it('never holds more than its limit of what is not pinned, and counts right', () => {
  const acts = fc.array(fc.record({ number: fc.nat(12), floats: fc.integer({ min: 1, max: 120 }) }), { maxLength: 60 });
  fc.assert(
    fc.property(acts, (all) => {
      const cache = new FrameCache(1000);
      for (const { number, floats } of all) cache.put(number, frame(floats));
      const held = Array.from({ length: 13 }, (_, n) => cache.get(n)).flatMap((found) => found ?? []);
      expect(cache.bytes).toBe(held.reduce((sum, { byteLength }) => sum + byteLength, 0));
      expect(cache.bytes).toBeLessThanOrEqual(1000);
      if (all.length > 0) expect(cache.has(all.at(-1)!.number)).toBe(true);
    }),
  );
});
