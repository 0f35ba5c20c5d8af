import { describe, expect, it } from 'vitest';
import { overlappingBoxes } from './overlappingBoxes';

/** The same numbers each time. */
function numbers(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16807) % 2147483647) / 2147483647;
}

describe('boxes that overlap', () => {
  it.each([1, 2, 3, 4, 5])('are all told of once, whatever their sizes (%i)', (seed) => {
    const next = numbers(seed * 7919);
    const count = 300;
    const boxes = new Float32Array(count * 6);
    for (let i = 0; i < count; i++) {
      // A few are far larger than the others, some are points, some are left out.
      const size = next() < 0.05 ? 1.5 : next() < 0.2 ? 0 : 0.1;
      for (let axis = 0; axis < 3; axis++) {
        const low = next() * 2 - 1;
        boxes[i * 6 + axis] = low;
        boxes[i * 6 + 3 + axis] = low + size * next();
      }
      if (next() < 0.1) boxes.set([Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity], i * 6);
    }
    const wanted = new Set<string>();
    for (let a = 0; a < count; a++) {
      for (let b = a + 1; b < count; b++) {
        const overlap = [0, 1, 2].every(
          (axis) =>
            boxes[a * 6 + axis]! <= boxes[b * 6 + 3 + axis]! && boxes[b * 6 + axis]! <= boxes[a * 6 + 3 + axis]!,
        );
        if (overlap) wanted.add(`${a} ${b}`);
      }
    }
    const found: string[] = [];
    overlappingBoxes(boxes, (a, b) => found.push(`${Math.min(a, b)} ${Math.max(a, b)}`));
    expect(wanted.size).toBeGreaterThan(20);
    expect(new Set(found)).toEqual(wanted);
    expect(found).toHaveLength(wanted.size);
  });

  it('are none of one box, or of none', () => {
    const never = () => expect.unreachable();
    overlappingBoxes(new Float32Array(), never);
    overlappingBoxes(Float32Array.of(0, 0, 0, 1, 1, 1), never);
  });
});
