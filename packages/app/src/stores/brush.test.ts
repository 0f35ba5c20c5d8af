import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Brush } from './selection';
import { BRUSH, resizedBrush } from './brush';

const brush: Brush = {
  ...{ unit: 'mm', radius: 0.08, pixels: 40, strength: 0.5, falloff: 0.7, value: 1, mode: 'add', heedsPen: true },
};

describe('the size of the brush', () => {
  it('changes in the measure that the brush has', () => {
    expect(resizedBrush(brush, 2)).toEqual({ ...brush, radius: 0.16 });
    expect(resizedBrush({ ...brush, unit: 'px' }, 0.5)).toEqual({ ...brush, unit: 'px', pixels: 20 });
  });

  it('never leaves what its field allows, however often a key is pressed', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('mm' as const, 'px' as const),
        fc.array(fc.double({ min: 0.1, max: 10, noNaN: true }), { maxLength: 60 }),
        (unit, factors) => {
          const { radius, pixels } = factors.reduce(resizedBrush, { ...brush, unit });
          expect(radius).toBeGreaterThanOrEqual(BRUSH.radius.min);
          expect(radius).toBeLessThanOrEqual(BRUSH.radius.max);
          expect(pixels).toBeGreaterThanOrEqual(BRUSH.pixels.min);
          expect(pixels).toBeLessThanOrEqual(BRUSH.pixels.max);
        },
      ),
    );
  });
});
