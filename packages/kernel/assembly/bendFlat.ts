import { difference, xyzMask } from './lanes';
import { endOf, firstOf, inColours } from './threads/ranges';
import { pass, passed } from './threads/pool';
import * as Hinge from '../layouts/constraints/flatHinge';

// Bending about an inner edge that is flat at rest. The bend vector s = sum k_i x_i (k from cotangents,
// summing to zero) has the length |edge| * 2 sin(angle / 2) (Bergou et al. 2006, "A Quadratic Bending Model
// for Inextensible Surfaces"). It is linear in the points, so with fixed masses all of the XPBD step but s is
// constant, and s is driven to zero in all three coordinates at once.

/** The bend vector of a hinge, of points that are displaced. */
// @ts-ignore: decorator
@inline
export function bendVector(hinge: usize, points: usize, displacement: usize): v128 {
  const i0 = <usize>load<u32>(hinge, Hinge.POINT_0),
    i1 = <usize>load<u32>(hinge, Hinge.POINT_1),
    i2 = <usize>load<u32>(hinge, Hinge.POINT_2),
    i3 = <usize>load<u32>(hinge, Hinge.POINT_3);
  const p0 = v128.load(points + i0),
    d0 = v128.load(displacement + i0);
  const s1 = difference(v128.load(points + i1), v128.load(displacement + i1), p0, d0),
    s2 = difference(v128.load(points + i2), v128.load(displacement + i2), p0, d0),
    s3 = difference(v128.load(points + i3), v128.load(displacement + i3), p0, d0);
  return v128.and(
    f32x4.add(
      f32x4.mul(v128.load32_splat(hinge, Hinge.SHARE_1), s1),
      f32x4.add(f32x4.mul(v128.load32_splat(hinge, Hinge.SHARE_2), s2), f32x4.mul(v128.load32_splat(hinge, Hinge.SHARE_3), s3)),
    ),
    xyzMask(),
  );
}

/** Moves the points of a hinge by what takes a bend vector away, softly or firmly as its stiffness says. */
// @ts-ignore: decorator
@inline
export function unbend(hinge: usize, displacement: usize, s: v128): void {
  give(hinge, 0, displacement, s);
  give(hinge, 4, displacement, s);
  give(hinge, 8, displacement, s);
  give(hinge, 12, displacement, s);
}

// @ts-ignore: decorator
@inline
function give(hinge: usize, corner: usize, displacement: usize, s: v128): void {
  const at = displacement + <usize>load<u32>(hinge + corner, Hinge.POINT_0);
  v128.store(at, f32x4.sub(v128.load(at), f32x4.mul(v128.load32_splat(hinge + corner, Hinge.MOVE_0), s)));
}

/** Hinges that a thread takes at a time. */
const CHUNK: i32 = 128;

/** One sweep over the hinges, colour by colour: `colours` has the u32 number of the first hinge of each, with the end appended. */
export function solveBendFlat(
  points: usize,
  displacement: usize,
  hinges: usize,
  colours: usize,
  colourCount: i32,
): void {
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, hinges);
  inColours(solveChunk.index, colours, colourCount, CHUNK);
}

function solveChunk(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1);
  const first = firstOf(chunk),
    end = endOf(chunk);
  let g = passed<usize>(2) + <usize>first * Hinge.BYTES;
  for (let n = first; n < end; n++, g += Hinge.BYTES) {
    unbend(g, displacement, bendVector(g, points, displacement));
  }
}

/**
 * Damps the velocity of folding along the bend vector only, so that neither the rest shape nor a rigid turn is
 * touched. Damping inside the constraint was tried and biased the rest state: 0.01 s halved the acting bend. `share` is how much of the
 * interval between dampings has passed.
 */
export function dampBendFlat(
  points: usize,
  velocity: usize,
  hinges: usize,
  colours: usize,
  colourCount: i32,
  share: f32,
): void {
  pass<usize>(0, points);
  pass<usize>(1, velocity);
  pass<usize>(2, hinges);
  pass<f32>(3, share);
  inColours(dampChunk.index, colours, colourCount, CHUNK);
}

function dampChunk(chunk: i32): void {
  const points = passed<usize>(0),
    velocity = passed<usize>(1);
  const share = passed<f32>(3);
  const mask = xyzMask();
  const first = firstOf(chunk),
    end = endOf(chunk);
  let g = passed<usize>(2) + <usize>first * Hinge.BYTES;
  for (let n = first; n < end; n++, g += Hinge.BYTES) {
    const at0 = velocity + <usize>load<u32>(g, Hinge.POINT_0),
      at1 = velocity + <usize>load<u32>(g, Hinge.POINT_1),
      at2 = velocity + <usize>load<u32>(g, Hinge.POINT_2),
      at3 = velocity + <usize>load<u32>(g, Hinge.POINT_3);
    const shift = points - velocity;
    const k1 = v128.load32_splat(g, Hinge.SHARE_1),
      k2 = v128.load32_splat(g, Hinge.SHARE_2),
      k3 = v128.load32_splat(g, Hinge.SHARE_3);
    const p0 = v128.load(at0 + shift);
    const s = v128.and(
      f32x4.add(
        f32x4.mul(k1, f32x4.sub(v128.load(at1 + shift), p0)),
        f32x4.add(
          f32x4.mul(k2, f32x4.sub(v128.load(at2 + shift), p0)),
          f32x4.mul(k3, f32x4.sub(v128.load(at3 + shift), p0)),
        ),
      ),
      mask,
    );
    const v0 = v128.load(at0),
      v1 = v128.load(at1),
      v2 = v128.load(at2),
      v3 = v128.load(at3);
    const rate = f32x4.add(
      f32x4.mul(k1, f32x4.sub(v1, v0)),
      f32x4.add(f32x4.mul(k2, f32x4.sub(v2, v0)), f32x4.mul(k3, f32x4.sub(v3, v0))),
    );
    const along = sumOfLanes(f32x4.mul(rate, s));
    const square = sumOfLanes(f32x4.mul(s, s));
    if (square < 1e-24) continue;
    const turn = f32x4.mul(f32x4.mul(s, f32x4.splat(along / square)), f32x4.splat(share * load<f32>(g, Hinge.DAMPING)));
    v128.store(at0, f32x4.sub(v0, f32x4.mul(v128.load32_splat(g, Hinge.MOVE_0), turn)));
    v128.store(at1, f32x4.sub(v1, f32x4.mul(v128.load32_splat(g, Hinge.MOVE_1), turn)));
    v128.store(at2, f32x4.sub(v2, f32x4.mul(v128.load32_splat(g, Hinge.MOVE_2), turn)));
    v128.store(at3, f32x4.sub(v3, f32x4.mul(v128.load32_splat(g, Hinge.MOVE_3), turn)));
  }
}

// @ts-ignore: decorator
@inline
function sumOfLanes(v: v128): f32 {
  return f32x4.extract_lane(v, 0) + f32x4.extract_lane(v, 1) + f32x4.extract_lane(v, 2);
}
