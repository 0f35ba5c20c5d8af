import Delaunator from 'delaunator';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { edgeKey } from './constrain';
import { evenTile, TILE } from './evenTile';
import { next } from './halfEdges';
import { keepDelaunay } from './keepDelaunay';

const edgesOf = ({ triangles }: { triangles: Uint32Array }) =>
  [...new Set(Array.from(triangles, (a, half) => edgeKey(a, triangles[next(half)]!)))].sort((a, b) => a - b);

describe('the even tile', () => {
  const tile = evenTile();

  it('has as many points as even triangles with sides of 1 would have', () => {
    const area = (TILE * TILE) / (tile.length / 2);
    expect(area / (Math.sqrt(3) / 2)).toBeGreaterThan(0.98);
    expect(area / (Math.sqrt(3) / 2)).toBeLessThan(1.06);
  });

  it('goes on into itself: laid out twice over, it is as even across its borders as within', () => {
    const twice: number[] = [];
    for (const du of [0, TILE]) {
      for (const dv of [0, TILE]) for (let i = 0; i < tile.length; i += 2) twice.push(tile[i]! + du, tile[i + 1]! + dv);
    }
    const { triangles } = new Delaunator(Float64Array.from(twice));
    const within = (point: number) =>
      [0, 1].every((axis) => twice[point * 2 + axis]! > 2 && twice[point * 2 + axis]! < 2 * TILE - 2);
    let [edges, even, longest, shortest] = [0, 0, 0, Infinity];
    triangles.forEach((a, half) => {
      const b = triangles[next(half)]!;
      if (!within(a) || !within(b)) return;
      const size = Math.hypot(twice[a * 2]! - twice[b * 2]!, twice[a * 2 + 1]! - twice[b * 2 + 1]!);
      edges++;
      if (size > 0.6 && size < 1.5) even++;
      [longest, shortest] = [Math.max(longest, size), Math.min(shortest, size)];
    });
    expect(even / edges).toBeGreaterThan(0.998);
    expect(shortest).toBeGreaterThan(0.45);
    expect(longest).toBeLessThan(1.6);
  });
});

describe('a triangulation whose points have moved', () => {
  const places = fc
    .uniqueArray(fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 60 })), {
      ...{ minLength: 12, maxLength: 80 },
      selector: ([u, v]) => u * 61 + v,
    })
    // Off the grid, so that no four lie on a circle.
    .map((all) =>
      Float64Array.from(all.flatMap(([u, v], i) => [u + 0.2 * Math.sin(7 * i), v + 0.2 * Math.cos(11 * i)])),
    );

  it('is what it would be made anew, unless it says that it has to be', () => {
    let kept = 0;
    fc.assert(
      fc.property(places, fc.double({ min: 0.01, max: 0.35, noNaN: true }), (before, share) => {
        const mesh = new Delaunator(before.slice());
        // The border of all is made of points that stay, as where a piece is meshed.
        const hull = new Set(mesh.hull);
        const after = before.map((value, i) => (hull.has(i >> 1) ? value : value + share * Math.sin(13 * i)));
        if (!keepDelaunay(mesh, after, [0, after.length / 2])) return;
        const anew = new Delaunator(after.slice());
        if (String([...anew.hull].sort()) !== String([...mesh.hull].sort())) return;
        kept++;
        expect(edgesOf(mesh)).toEqual(edgesOf(anew));
        mesh.halfedges.forEach((other, half) => {
          if (other >= 0) expect(mesh.halfedges[other]).toBe(half);
        });
      }),
      { numRuns: 200 },
    );
    expect(kept).toBeGreaterThan(50);
  });

  it('is not turned where a triangle was turned inside out', () => {
    const before = Float64Array.from([0, 0, 4, 0, 4, 4, 0, 4, 1, 2]);
    const mesh = new Delaunator(before.slice());
    const triangles = mesh.triangles.slice();
    expect(keepDelaunay(mesh, Float64Array.from([0, 0, 4, 0, 4, 4, 0, 4, -3, 2]), [4, 5])).toBe(false);
    expect([...mesh.triangles]).toEqual([...triangles]);
  });
});
