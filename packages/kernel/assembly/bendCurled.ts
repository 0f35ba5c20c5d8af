import { bendVector, HINGE_BYTES, unbend } from './bendFlat';
import { difference } from './lanes';
import { endOf, firstOf, inColours } from './threads/ranges';
import { pass, passed } from './threads/pool';
import { add, cross, dot } from './vectors';

// Bending about inner edges that are flat as cut, where the cloth wants to be curved: by a curl of its own, or by creases that it has kept.
// As in bendFlat.ts, but the bend vector s is driven to a length w along the normal of the cloth there instead of to zero. The normal is that
// of the points as the substep has found them, so the constraint stays linear in the points.
//
// Per hinge of bendFlat.ts 16 bytes: f32 w that the fabric's own curl gives, f32 w that creases add, f32 share of a fold that stays, one unused.
// w is 2 sin(angle / 2), positive where the far points are to rise towards the normal.
const WANTED: usize = 16;
/** A triangle of the lists of air.ts. */
const TRIANGLE: usize = 32;

/** Writes the normals of points, 16 bytes each as `points` lie, not of unit length: the sums of the faces around them, by area. */
export function pointNormals(
  points: usize,
  displacement: usize,
  normals: usize,
  firstPoint: usize,
  count: i32,
  triangles: usize,
  triangleCount: i32,
): void {
  memory.fill(normals + firstPoint, 0, <usize>count << 4);
  let g = triangles;
  for (let n = 0; n < triangleCount; n++, g += TRIANGLE) {
    const i = <usize>load<u32>(g, 0),
      j = <usize>load<u32>(g, 4),
      k = <usize>load<u32>(g, 8);
    const p = v128.load(points + i),
      d = v128.load(displacement + i);
    const u = difference(v128.load(points + j), v128.load(displacement + j), p, d),
      v = difference(v128.load(points + k), v128.load(displacement + k), p, d);
    const across = cross(u, v);
    add(normals + i, across, 1);
    add(normals + j, across, 1);
    add(normals + k, across, 1);
  }
}

/** Hinges that a thread takes at a time. */
const CHUNK: i32 = 128;

/** One sweep over the hinges, colour by colour as in bendFlat.ts. */
export function solveBendCurled(
  points: usize,
  displacement: usize,
  hinges: usize,
  colours: usize,
  colourCount: i32,
  wanted: usize,
  normals: usize,
): void {
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, hinges);
  pass<usize>(3, wanted);
  pass<usize>(4, normals);
  inColours(solveChunk.index, colours, colourCount, CHUNK);
}

function solveChunk(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    normals = passed<usize>(4);
  const first = firstOf(chunk),
    end = endOf(chunk);
  let g = passed<usize>(2) + <usize>first * HINGE_BYTES,
    wanted = passed<usize>(3) + <usize>first * WANTED;
  for (let n = first; n < end; n++, g += HINGE_BYTES, wanted += WANTED) {
    const w = load<f32>(wanted) + load<f32>(wanted, 4);
    let s = bendVector(g, points, displacement);
    if (w != 0) s = f32x4.sub(s, f32x4.mul(normalAt(g, normals), f32x4.splat(w)));
    unbend(g, displacement, s);
  }
}

/**
 * Lets folds that are sharper than `limit` (as w above) stay: a crease comes nearer by `rate` to the share of the fold that it keeps. It
 * never loosens by itself; it is bent the other way by a sharp fold the other way.
 */
export function keepCreases(
  points: usize,
  residual: usize,
  hinges: usize,
  count: i32,
  wanted: usize,
  normals: usize,
  limit: f32,
  rate: f32,
): void {
  let g = hinges;
  for (let n = 0; n < count; n++, g += HINGE_BYTES, wanted += WANTED) {
    const keeps = load<f32>(wanted, 8);
    if (keeps == 0) continue;
    const fold = dot(bendVector(g, points, residual), normalAt(g, normals));
    if (Mathf.abs(fold) < limit) continue;
    const crease = load<f32>(wanted, 4);
    const kept = keeps * (fold - load<f32>(wanted));
    if (fold > 0 ? kept <= crease : kept >= crease) continue;
    store<f32>(wanted, crease + (kept - crease) * rate, 4);
  }
}

/** The normal of the cloth at a hinge: halfway between the ends of its edge; nothing where there is none. */
// @ts-ignore: decorator
@inline
function normalAt(hinge: usize, normals: usize): v128 {
  const n = f32x4.add(
    v128.load(normals + <usize>load<u32>(hinge, 0)),
    v128.load(normals + <usize>load<u32>(hinge, 4)),
  );
  const square = dot(n, n);
  return f32x4.mul(n, f32x4.splat(square > 1e-30 ? 1 / Mathf.sqrt(square) : 0));
}
