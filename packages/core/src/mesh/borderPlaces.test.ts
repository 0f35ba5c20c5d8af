import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Vector3 } from '../math/vector';
import { borderPlaces } from './borderPlaces';
import type { Mesh } from './mesh';
import { placeOn } from './nearestPlace';

/** A strip along x in the plane y = 0, from z = -0.1 to 0.1, of uneven quads. */
function strip(xs: readonly number[]): Mesh {
  const positions = xs.flatMap((x) => [x, 0, -0.1, x, 0, 0.1]);
  const triangles = xs.slice(1).flatMap((_, i) => [i * 2, i * 2 + 1, i * 2 + 2, i * 2 + 1, i * 2 + 3, i * 2 + 2]);
  return { positions: Float32Array.from(positions), triangles: Uint32Array.from(triangles) };
}

/** An open tube about y, 1 m high, with a border at either end. */
function tube(radius: number, count: number): Mesh {
  const ring = (y: number) =>
    Array.from({ length: count }, (_, i) => {
      const angle = (2 * Math.PI * i) / count;
      return [radius * Math.cos(angle), y, radius * Math.sin(angle)];
    }).flat();
  const triangles = Array.from({ length: count }, (_, i) => {
    const [a, b] = [i, (i + 1) % count];
    return [a, b, a + count, b, b + count, a + count];
  }).flat();
  return { positions: Float32Array.from([...ring(0), ...ring(1)]), triangles: Uint32Array.from(triangles) };
}

const on = (mesh: Mesh, found: ReturnType<typeof borderPlaces>) =>
  found!.map((place) => placeOn(mesh.positions, mesh.triangles, place));
const inOrder = (count: number, ring = false) => ({ order: Array.from({ length: count }, (_, i) => i), ring });

describe('borderPlaces', () => {
  it('spreads a stretch evenly from where its ends are nearest, however the border is divided, and gathers it', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: 99 }), { minLength: 1, maxLength: 8 }),
        fc.integer({ min: 2, max: 30 }),
        fc.boolean(),
        (cuts, count, back) => {
          const mesh = strip([0, ...cuts.sort((a, b) => a - b).map((cut) => cut / 100), 1]);
          // Folded in a zigzag, so that it is longer than the border is between its ends.
          const places = Array.from({ length: count }, (_, i): Vector3 => {
            const share = i / (count - 1);
            return [0.2 + 0.5 * (back ? 1 - share : share), 0.02 * (i % 2), 0.13];
          });
          on(mesh, borderPlaces(mesh, places, inOrder(count))).forEach((place, i) => {
            expect(place[0]).toBeCloseTo(places[i]![0], 5);
            expect(place[2]).toBeCloseTo(0.1, 5);
          });
        },
      ),
      { seed: 14, numRuns: 50 },
    );
  });

  it('tells how far each is, and takes the way round that is nearer, over a corner', () => {
    const mesh = strip([0, 0.5, 1]);
    const places: Vector3[] = [
      [0.9, 0, -0.13],
      [1.04, 0, -0.05],
      [1.04, 0, 0.05],
      [0.9, 0, 0.13],
    ];
    const found = borderPlaces(mesh, places, inOrder(4))!;
    const at = on(mesh, found);
    expect(at[0]).toEqual([expect.closeTo(0.9, 5), 0, expect.closeTo(-0.1, 5)]);
    expect(at[1]![0]).toBeCloseTo(1, 5);
    expect(at[2]![0]).toBeCloseTo(1, 5);
    expect(at[1]![2]).toBeCloseTo(-at[2]![2], 5);
    expect(found[0]!.distance).toBeCloseTo(0.03, 5);
  });

  it('lays a ring all around the border that is nearer, whichever way it runs and wherever it begins', () => {
    const mesh = tube(0.5, 48);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 47 }), fc.boolean(), fc.boolean(), (begin, back, upper) => {
        const places = Array.from({ length: 24 }, (_, i): Vector3 => {
          const angle = (2 * Math.PI * ((back ? -i : i) * 2 + begin)) / 48;
          return [0.6 * Math.cos(angle), upper ? 1.1 : -0.2, 0.6 * Math.sin(angle)];
        });
        on(mesh, borderPlaces(mesh, places, inOrder(24, true))).forEach((place, i) => {
          expect(place[1]).toBe(upper ? 1 : 0);
          expect(place[0]).toBeCloseTo(places[i]![0] / 1.2, 4);
          expect(place[2]).toBeCloseTo(places[i]![2] / 1.2, 4);
        });
      }),
      { seed: 3, numRuns: 30 },
    );
  });

  it('puts places that are no stretch at the nearest of any border, never inside', () => {
    const mesh = tube(0.5, 48);
    const places: Vector3[] = [
      [0.5, 0.4, 0],
      [0, 0.8, 0.5],
    ];
    const at = on(mesh, borderPlaces(mesh, places, null));
    expect(at.map((place) => place[1])).toEqual([0, 1]);
  });

  it('finds none on a closed mesh', () => {
    const closed: Mesh = {
      positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1),
      triangles: Uint32Array.of(0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3),
    };
    expect(borderPlaces(closed, [[0, 0, 0]], null)).toBeNull();
  });
});
