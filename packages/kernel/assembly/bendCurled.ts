import { bendVector, unbend } from './bendFlat';
import { difference } from './lanes';
import { endOf, firstOf, inColours } from './threads/ranges';
import { pass, passed } from './threads/pool';
import { add, cross, dot } from './vectors';
import * as AirTriangle from '../layouts/air/airTriangle';
import * as Hinge from '../layouts/constraints/flatHinge';
import * as Wanted from '../layouts/constraints/wantedBend';

// Bending about inner edges that are flat as cut, where the cloth wants to be curved: by a curl of its own, or by creases that it has kept.
// As in bendFlat.ts, but the bend vector s is driven to a length w along the normal of the cloth there instead of to zero. The normal is that
// of the points as the substep has found them, so the constraint stays linear in the points.
//
// Each hinge of bendFlat.ts has a wantedBend beside it.

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
  for (let n = 0; n < triangleCount; n++, g += AirTriangle.BYTES) {
    const i = <usize>load<u32>(g, AirTriangle.CORNER_0),
      j = <usize>load<u32>(g, AirTriangle.CORNER_1),
      k = <usize>load<u32>(g, AirTriangle.CORNER_2);
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
  let g = passed<usize>(2) + <usize>first * Hinge.BYTES,
    wanted = passed<usize>(3) + <usize>first * Wanted.BYTES;
  for (let n = first; n < end; n++, g += Hinge.BYTES, wanted += Wanted.BYTES) {
    const w = load<f32>(wanted, Wanted.CURL) + load<f32>(wanted, Wanted.CREASE);
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
  for (let n = 0; n < count; n++, g += Hinge.BYTES, wanted += Wanted.BYTES) {
    const keeps = load<f32>(wanted, Wanted.KEEPS);
    if (keeps == 0) continue;
    const fold = dot(bendVector(g, points, residual), normalAt(g, normals));
    if (Mathf.abs(fold) < limit) continue;
    const crease = load<f32>(wanted, Wanted.CREASE);
    const kept = keeps * (fold - load<f32>(wanted, Wanted.CURL));
    if (fold > 0 ? kept <= crease : kept >= crease) continue;
    store<f32>(wanted, crease + (kept - crease) * rate, Wanted.CREASE);
  }
}

/** The normal of the cloth at a hinge: halfway between the ends of its edge; nothing where there is none. */
// @ts-ignore: decorator
@inline
function normalAt(hinge: usize, normals: usize): v128 {
  const n = f32x4.add(
    v128.load(normals + <usize>load<u32>(hinge, Hinge.POINT_0)),
    v128.load(normals + <usize>load<u32>(hinge, Hinge.POINT_1)),
  );
  const square = dot(n, n);
  return f32x4.mul(n, f32x4.splat(square > 1e-30 ? 1 / Mathf.sqrt(square) : 0));
}
