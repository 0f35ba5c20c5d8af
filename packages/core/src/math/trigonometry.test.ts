import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arcTangent, cosine, sine } from './trigonometry';

const angle = fc.double({ min: -1e4, max: 1e4, noNaN: true });

describe('trigonometry from exact operations', () => {
  it('agrees with the engine to 1e-11 over many turns', () => {
    fc.assert(
      fc.property(angle, (x) => {
        expect(Math.abs(sine(x) - Math.sin(x))).toBeLessThan(1e-11);
        expect(Math.abs(cosine(x) - Math.cos(x))).toBeLessThan(1e-11);
      }),
    );
  });

  it('gives the direction of any vector', () => {
    const part = fc.double({ min: -1e3, max: 1e3, noNaN: true });
    fc.assert(
      fc.property(part, part, (y, x) => {
        fc.pre(Math.abs(x) + Math.abs(y) > 1e-6);
        expect(Math.abs(arcTangent(y, x) - Math.atan2(y + 0, x))).toBeLessThan(1e-12);
      }),
    );
  });

  it('is exact where an artist expects it', () => {
    expect(sine(0)).toBe(0);
    expect(cosine(0)).toBeCloseTo(1, 15);
    expect(sine(Math.PI / 6)).toBeCloseTo(0.5, 14);
  });
});
