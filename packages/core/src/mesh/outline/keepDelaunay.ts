import { next, previous, turnEdge, type Triangulation } from './halfEdges';

/** Edges are turned at most so many times for each that there is; Lawson's method ends, rounding may not. */
const MOST_TURNS = 4;
/** Four points as near to a circle as this, relative to the fourth power of their distance, lie on it. */
const ON_CIRCLE = 1e-9;

/**
 * Makes a triangulation Delaunay again after its points have moved a little, by turning edges (Lawson 1977): a fifth of the time of making it anew.
 *
 * @param mesh triangles clockwise where v points up, as Delaunator has them; changed
 * @param places u v of each point, where they are now
 * @param moved the first of those that have moved, and the one after the last
 * @returns false where a triangle was turned inside out by the motion: it has to be made anew
 */
export function keepDelaunay(
  mesh: Triangulation,
  places: Float64Array,
  [from, to]: readonly [number, number],
): boolean {
  const { triangles, halfedges } = mesh;
  const hasMoved = (point: number) => point >= from && point < to;
  const pending: number[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const a = triangles[t]!;
    const b = triangles[t + 1]!;
    const c = triangles[t + 2]!;
    if (!hasMoved(a) && !hasMoved(b) && !hasMoved(c)) continue;
    if (!(turn(places, a, b, c) < 0)) return false;
    for (let half = t; half < t + 3; half++) if (isToTurn(mesh, places, half)) pending.push(half);
  }
  for (let left = MOST_TURNS * halfedges.length; pending.length > 0 && left > 0; left--) {
    const half = pending.pop()!;
    if (halfedges[half]! < 0 || !isToTurn(mesh, places, half)) continue;
    const other = halfedges[half]!;
    turnEdge(mesh, half);
    pending.push(half, next(half), other, next(other));
  }
  return true;
}

/** Whether the far point of one triangle at an edge lies in the circle around the other. */
function isToTurn({ triangles, halfedges }: Triangulation, places: Float64Array, half: number): boolean {
  const other = halfedges[half]!;
  if (other < 0) return false;
  const p = triangles[previous(other)]!;
  const pu = places[p * 2]!;
  const pv = places[p * 2 + 1]!;
  const a = triangles[half]!;
  const b = triangles[next(half)]!;
  const c = triangles[previous(half)]!;
  const au = places[a * 2]! - pu;
  const av = places[a * 2 + 1]! - pv;
  const bu = places[b * 2]! - pu;
  const bv = places[b * 2 + 1]! - pv;
  const cu = places[c * 2]! - pu;
  const cv = places[c * 2 + 1]! - pv;
  const aa = au * au + av * av;
  const bb = bu * bu + bv * bv;
  const cc = cu * cu + cv * cv;
  const inside = au * (bv * cc - bb * cv) - av * (bu * cc - bb * cu) + aa * (bu * cv - bv * cu);
  return inside < -ON_CIRCLE * (aa + bb + cc) * (aa + bb + cc);
}

function turn(places: Float64Array, a: number, b: number, c: number): number {
  const [au, av] = [places[a * 2]!, places[a * 2 + 1]!];
  return (places[b * 2]! - au) * (places[c * 2 + 1]! - av) - (places[b * 2 + 1]! - av) * (places[c * 2]! - au);
}
