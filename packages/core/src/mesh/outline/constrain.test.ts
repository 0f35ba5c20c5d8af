import Delaunator from 'delaunator';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { constrain, edgeKey } from './constrain';
import { next } from './halfEdges';
import { meet } from './outlineProblem';
import type { FlatPlace } from './path';

/** As many edges between the points, in the order of the pairs, as neither cross nor touch each other. */
function apart(points: readonly FlatPlace[], pairs: readonly [number, number][]): [number, number][] {
  const found: [number, number][] = [];
  for (const [a, b] of pairs) {
    if (a === b || found.some((edge) => edgeKey(...edge) === edgeKey(a, b))) continue;
    const clear = found.every(([p, q]) => {
      if ([p, q].includes(a) || [p, q].includes(b)) return true;
      return !meet(points[a]!, points[b]!, points[p]!, points[q]!);
    });
    if (clear) found.push([a, b]);
  }
  return found;
}

// Edges that are turned stand elsewhere among the half-edges. Those still to be turned were looked for where they had stood before, and borders and lines
// that cross several edges, such as both sides of a narrow notch, turned others away: a face was left across the notch.
describe('edges that a triangulation is to have', () => {
  it('are all there, however many they cross, and it stays one', () => {
    const place = fc.tuple(fc.integer({ min: 0, max: 1000 }), fc.integer({ min: 0, max: 1000 }));
    fc.assert(
      fc.property(
        fc.uniqueArray(place, { minLength: 8, maxLength: 60, selector: String }),
        fc.array(fc.tuple(fc.nat(59), fc.nat(59)), { minLength: 1, maxLength: 40 }),
        (points, pairs) => {
          // Of three on a line none could have an edge between the others.
          const places = points.map(([u, v], i): FlatPlace => [u + i * 0.00137, v + i * i * 0.000071]);
          const coords = Float64Array.from(places.flat());
          const mesh = new Delaunator(coords);
          const count = mesh.triangles.length;
          fc.pre(count > 0);
          const wanted = apart(
            places,
            pairs.filter(([a, b]) => a < places.length && b < places.length),
          );
          expect(constrain(mesh, coords, wanted)).toEqual([]);
          const has = new Set(Array.from(mesh.triangles, (a, half) => edgeKey(a, mesh.triangles[next(half)]!)));
          for (const [a, b] of wanted) expect(has.has(edgeKey(a, b))).toBe(true);
          // Each edge has the same other half as before, and no triangle is turned over.
          mesh.halfedges.forEach((other, half) => {
            if (other < 0) return;
            expect(mesh.halfedges[other]).toBe(half);
            expect(mesh.triangles[other]).toBe(mesh.triangles[next(half)]);
          });
          for (let t = 0; t < count; t += 3) {
            const [a, b, c] = [0, 1, 2].map((i) => places[mesh.triangles[t + i]!]!) as [
              FlatPlace,
              FlatPlace,
              FlatPlace,
            ];
            expect((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])).toBeLessThanOrEqual(0);
          }
        },
      ),
      { numRuns: 300 },
    );
  });
});
