import { apart, cross, direction, minus, type Vector3 } from '../../math/vector';
import type { FlatPlace } from '../../mesh/outline/path';

/** A strip of triangles between two rails, as it lies in space and unrolled. */
export interface Strip {
  /** Left and right rail, as many places each, in m. */
  places: readonly [readonly Vector3[], readonly Vector3[]];
  /** The same unrolled: the left one at lower u, from lower to higher v, around the origin. */
  flat: readonly [readonly FlatPlace[], readonly FlatPlace[]];
}

/**
 * Unrolls the strip between two rails: triangle after triangle is laid beside the one before, so that every edge is as long as it was. What is cut so
 * lies between the rails without being stretched.
 *
 * @param left as many places as `right`, at least two
 */
export function unrollStrip(left: readonly Vector3[], right: readonly Vector3[]): Strip {
  const a: FlatPlace[] = [[0, 0]];
  const b: FlatPlace[] = [[apart(left[0]!, right[0]!), 0]];
  for (let i = 1; i < left.length; i++) {
    b.push(beyond(a[i - 1]!, b[i - 1]!, apart(left[i - 1]!, right[i]!), apart(right[i - 1]!, right[i]!)));
    a.push(beyond(a[i - 1]!, b[i]!, apart(left[i - 1]!, left[i]!), apart(right[i]!, left[i]!)));
  }
  const upright = turnedUpright(a, b);
  return { places: [left, right], flat: [a.map(upright), b.map(upright)] };
}

/** The place to the left of the way from p to q that is so far from either. */
function beyond(p: FlatPlace, q: FlatPlace, fromP: number, fromQ: number): FlatPlace {
  const [du, dv] = [q[0] - p[0], q[1] - p[1]];
  const size = Math.sqrt(du * du + dv * dv);
  if (size === 0) return [p[0], p[1] + fromP];
  const along = (fromP * fromP - fromQ * fromQ + size * size) / (2 * size);
  const off = Math.sqrt(Math.max(0, fromP * fromP - along * along));
  return [p[0] + (along * du - off * dv) / size, p[1] + (along * dv + off * du) / size];
}

/** A turn and a move by which the middles of both ends come to lie upright about the origin. */
function turnedUpright(a: readonly FlatPlace[], b: readonly FlatPlace[]): (place: FlatPlace) => FlatPlace {
  const middle = (i: number): FlatPlace => [(a.at(i)![0] + b.at(i)![0]) / 2, (a.at(i)![1] + b.at(i)![1]) / 2];
  const [low, high] = [middle(0), middle(-1)];
  const [du, dv] = [high[0] - low[0], high[1] - low[1]];
  const size = Math.sqrt(du * du + dv * dv);
  const [cos, sin] = size > 0 ? [dv / size, du / size] : [1, 0];
  const [u0, v0] = [(low[0] + high[0]) / 2, (low[1] + high[1]) / 2];
  return ([u, v]) => [cos * (u - u0) - sin * (v - v0), sin * (u - u0) + cos * (v - v0)];
}

/** Where a place of the unrolled strip lies in space, so far off the strip to its front; beside the strip it goes on straight. */
export function placeOnStrip({ places, flat }: Strip): (place: FlatPlace, off?: number) => Vector3 {
  const [left, right] = places;
  const faces = left.slice(1).flatMap((_, i) => [
    { flat: [flat[0][i]!, flat[1][i]!, flat[1][i + 1]!], at: [left[i]!, right[i]!, right[i + 1]!] },
    { flat: [flat[0][i]!, flat[1][i + 1]!, flat[0][i + 1]!], at: [left[i]!, right[i + 1]!, left[i + 1]!] },
  ]) as unknown as { flat: [FlatPlace, FlatPlace, FlatPlace]; at: [Vector3, Vector3, Vector3] }[];
  return (place, off = 0) => {
    let best: { weights: Vector3; at: [Vector3, Vector3, Vector3]; inside: number } | null = null;
    for (const face of faces) {
      const weights = weightsIn(face.flat, place);
      if (!weights) continue;
      const inside = Math.min(...weights);
      if (!best || inside > best.inside) best = { weights, at: face.at, inside };
    }
    const [[x, y, z], [p, q, r]] = [best!.weights, best!.at];
    const normal = direction(cross(minus(q, p), minus(r, p))) ?? [0, 0, 0];
    return [0, 1, 2].map((k) => x * p[k]! + y * q[k]! + z * r[k]! + off * normal[k]!) as unknown as Vector3;
  };
}

/** How the corners of a flat triangle weigh in at a place; null where it has no area. */
function weightsIn([a, b, c]: readonly [FlatPlace, FlatPlace, FlatPlace], [u, v]: FlatPlace): Vector3 | null {
  const area = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
  if (!(Math.abs(area) > 1e-14)) return null;
  const y = ((u - a[0]) * (c[1] - a[1]) - (v - a[1]) * (c[0] - a[0])) / area;
  const z = ((b[0] - a[0]) * (v - a[1]) - (b[1] - a[1]) * (u - a[0])) / area;
  return [1 - y - z, y, z];
}
