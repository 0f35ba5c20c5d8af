import { difference, xyzMask } from './lanes';
import { add, cross, dot } from './vectors';

// Bending about inner edges that are flat as cut, where the cloth wants to be curved: by a curl of its own, or by creases that it has kept.
// As in bendFlat.ts, but the bend vector s is driven to a length w along the normal of the cloth there instead of to zero. The normal is that
// of the points as the substep has found them, so the constraint stays linear in the points.
//
// Per hinge of bendFlat.ts 16 bytes: f32 w that the fabric's own curl gives, f32 w that creases add, f32 share of a fold that stays, one unused.
// w is 2 sin(angle / 2), positive where the far points are to rise towards the normal.
const WANTED: usize = 16;
const HINGE: usize = 48;
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

/** One sweep over the hinges, in their stored (coloured) order. */
export function solveBendCurled(
  points: usize,
  displacement: usize,
  hinges: usize,
  count: i32,
  wanted: usize,
  normals: usize,
): void {
  const mask = xyzMask();
  let g = hinges;
  for (let n = 0; n < count; n++, g += HINGE, wanted += WANTED) {
    const i0 = <usize>load<u32>(g, 0),
      i1 = <usize>load<u32>(g, 4);
    const at0 = displacement + i0,
      at1 = displacement + i1,
      at2 = displacement + <usize>load<u32>(g, 8),
      at3 = displacement + <usize>load<u32>(g, 12);
    const shift = points - displacement;
    const p0 = v128.load(at0 + shift),
      d0 = v128.load(at0),
      d1 = v128.load(at1),
      d2 = v128.load(at2),
      d3 = v128.load(at3);
    let s = v128.and(
      f32x4.add(
        f32x4.mul(v128.load32_splat(g, 16), difference(v128.load(at1 + shift), d1, p0, d0)),
        f32x4.add(
          f32x4.mul(v128.load32_splat(g, 20), difference(v128.load(at2 + shift), d2, p0, d0)),
          f32x4.mul(v128.load32_splat(g, 24), difference(v128.load(at3 + shift), d3, p0, d0)),
        ),
      ),
      mask,
    );
    const w = load<f32>(wanted) + load<f32>(wanted, 4);
    if (w != 0) s = f32x4.sub(s, f32x4.mul(unitNormal(normals, i0, i1), f32x4.splat(w)));
    v128.store(at0, f32x4.sub(d0, f32x4.mul(v128.load32_splat(g, 28), s)));
    v128.store(at1, f32x4.sub(d1, f32x4.mul(v128.load32_splat(g, 32), s)));
    v128.store(at2, f32x4.sub(d2, f32x4.mul(v128.load32_splat(g, 36), s)));
    v128.store(at3, f32x4.sub(d3, f32x4.mul(v128.load32_splat(g, 40), s)));
  }
}

/**
 * Lets folds that are sharper than `limit` (as w above) stay: a crease comes nearer by `rate` to the share of the fold that it keeps. It
 * never loosens by itself; it is bent the other way by a sharp fold the other way.
 */
export function keepCreases(
  points: usize,
  hinges: usize,
  count: i32,
  wanted: usize,
  normals: usize,
  limit: f32,
  rate: f32,
): void {
  let g = hinges;
  for (let n = 0; n < count; n++, g += HINGE, wanted += WANTED) {
    const keeps = load<f32>(wanted, 8);
    if (keeps == 0) continue;
    const i0 = <usize>load<u32>(g, 0),
      i1 = <usize>load<u32>(g, 4);
    const p0 = v128.load(points + i0);
    const s = f32x4.add(
      f32x4.mul(v128.load32_splat(g, 16), f32x4.sub(v128.load(points + i1), p0)),
      f32x4.add(
        f32x4.mul(v128.load32_splat(g, 20), f32x4.sub(v128.load(points + <usize>load<u32>(g, 8)), p0)),
        f32x4.mul(v128.load32_splat(g, 24), f32x4.sub(v128.load(points + <usize>load<u32>(g, 12)), p0)),
      ),
    );
    const fold = dot(s, unitNormal(normals, i0, i1));
    if (Mathf.abs(fold) < limit) continue;
    const crease = load<f32>(wanted, 4);
    const kept = keeps * (fold - load<f32>(wanted));
    if (fold > 0 ? kept <= crease : kept >= crease) continue;
    store<f32>(wanted, crease + (kept - crease) * rate, 4);
  }
}

/** The normal halfway between two points; nothing where there is none. */
// @ts-ignore: decorator
@inline
function unitNormal(normals: usize, i: usize, j: usize): v128 {
  const n = f32x4.add(v128.load(normals + i), v128.load(normals + j));
  const square = dot(n, n);
  return f32x4.mul(n, f32x4.splat(square > 1e-30 ? 1 / Mathf.sqrt(square) : 0));
}
