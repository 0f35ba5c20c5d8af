import Delaunator from 'delaunator';
import { constrain, edgeKey } from './constrain';
import { next } from './halfEdges';
import type { FlatPlace } from './path';

/**
 * Triangles of points in the plane in which given edges are edges, and only those between the outer and the inner loops: as many as the
 * parity of loops around them says. Constrained Delaunay triangulation (Sloan 1993) with robust predicates, the same to the bit everywhere.
 *
 * @param places u v of each point
 * @param loops closed rows of points, none of which crosses another
 * @param rows rows of points within, whose edges are edges too
 * @returns three points a triangle, counter-clockwise
 */
export function triangulate(
  places: Float64Array,
  loops: readonly (readonly number[])[],
  rows: readonly (readonly number[])[] = [],
): Uint32Array {
  const all = framed(places);
  const delaunay = new Delaunator(all);
  const edges = loops.flatMap((loop) =>
    loop.map((point, i): [number, number] => [point, loop[(i + 1) % loop.length]!]),
  );
  const within = rows.flatMap((row) => row.slice(1).map((point, i): [number, number] => [row[i]!, point]));
  constrain(delaunay, all, [...edges, ...within]);
  return insideOf(delaunay, edges, all.length / 2);
}

/** With four places far around them: in the hull of all, borders that are straight but for rounding would be slivers. */
function framed(places: Float64Array): Float64Array {
  const [low, high] = [
    [Infinity, Infinity],
    [-Infinity, -Infinity],
  ] as [number[], number[]];
  for (let i = 0; i < places.length; i++) {
    low[i & 1] = Math.min(low[i & 1]!, places[i]!);
    high[i & 1] = Math.max(high[i & 1]!, places[i]!);
  }
  const [width, height] = [high[0]! - low[0]!, high[1]! - low[1]!];
  const all = new Float64Array(places.length + 8);
  all.set(places);
  [
    [low[0]! - width, low[1]! - height],
    [high[0]! + width, low[1]! - height],
    [high[0]! + width, high[1]! + height],
    [low[0]! - width, high[1]! + height],
  ].forEach((corner, i) => all.set(corner, places.length + i * 2));
  return all;
}

/** Goes in from the hull: a triangle has so many loops around it as edges of loops were passed. */
function insideOf(
  { triangles, halfedges }: Delaunator<ArrayLike<number>>,
  edges: readonly [number, number][],
  count: number,
): Uint32Array {
  const borders = new Set(edges.map(([a, b]) => edgeKey(a, b)));
  const onBorder = new Uint8Array(count);
  for (const [a, b] of edges) onBorder[a] = onBorder[b] = 1;
  const isBorder = (half: number) => {
    const a = triangles[half]!;
    const b = triangles[next(half)]!;
    return onBorder[a] === 1 && onBorder[b] === 1 && borders.has(edgeKey(a, b));
  };
  const inside = new Int8Array(triangles.length / 3).fill(-1);
  let wave: number[] = [];
  const reach = (triangle: number, value: number) => {
    if (inside[triangle] !== -1) return;
    inside[triangle] = value;
    wave.push(triangle);
  };
  for (let half = 0; half < halfedges.length; half++) {
    if (halfedges[half] === -1) reach(Math.floor(half / 3), isBorder(half) ? 1 : 0);
  }
  while (wave.length > 0) {
    const now = wave;
    wave = [];
    for (const triangle of now) {
      for (let half = triangle * 3; half < triangle * 3 + 3; half++) {
        const other = halfedges[half]!;
        if (other !== -1) reach(Math.floor(other / 3), isBorder(half) ? 1 - inside[triangle]! : inside[triangle]!);
      }
    }
  }
  const kept: number[] = [];
  for (let t = 0; t < inside.length; t++) {
    // Delaunator's triangles run the other way round where v points up.
    if (inside[t] === 1) kept.push(triangles[t * 3]!, triangles[t * 3 + 2]!, triangles[t * 3 + 1]!);
  }
  return Uint32Array.from(kept);
}

/** u v of places, one after the other. */
export function flatArray(places: readonly FlatPlace[]): Float64Array {
  const all = new Float64Array(places.length * 2);
  places.forEach((place, i) => all.set(place, i * 2));
  return all;
}
