import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { box } from '../mesh/shapes/box';
import { pointsNear } from './pointsNear';

describe('points near a surface', () => {
  it('are those within the distance of a box, and those inside it', () => {
    const size: [number, number, number] = [1, 0.6, 0.4];
    const surface = box({ size });
    const coordinate = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(coordinate, coordinate, coordinate), { maxLength: 30 }), (places) => {
        const found = new Set(pointsNear(new Float32Array(places.flat()), surface, 0.1));
        places.forEach((place, i) => {
          const away = Math.hypot(...place.map((value, axis) => Math.max(0, Math.abs(value) - size[axis]! / 2)));
          if (Math.abs(away - 0.1) > 1e-5) expect(found.has(i)).toBe(away < 0.1);
        });
      }),
      { numRuns: 40 },
    );
  });

  it('are none beside a mesh without faces', () => {
    expect(
      pointsNear(new Float32Array([0, 0, 0]), { positions: new Float32Array(), triangles: new Uint32Array() }, 1),
    ).toEqual([]);
  });
});
