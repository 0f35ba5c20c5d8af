import {
  difference,
  interleaveHigh,
  interleaveLow,
  joinHigh,
  joinLow,
  multiplyAdd,
} from './lanes';
import { endOf, firstOf, inColours } from './threads/ranges';
import { pass, passed } from './threads/pool';
import * as Group from '../layouts/constraints/membraneGroup';

// Warp, weft and shear of a triangle: the condition functions of Baraff and Witkin 1998 ("Large Steps in
// Cloth Simulation") solved as constraints with compliance (Macklin et al. 2016, "XPBD"), one after the
// other so that each sees what the last one did.
// Four triangles of one colour (no two share a point) are solved together. The matrix of each of them is a, b, c, d in what follows: the warp
// tangent is a e1 + c e2 and the weft tangent is b e1 + d e2.

/** Groups that a thread takes at a time. */
const CHUNK: i32 = 32;

/**
 * One sweep over groups of four triangles, colour by colour: `colours` has u32 numbers of the first group of each of `colourCount` colours,
 * with the end appended.
 */
export function solveMembrane(
  points: usize,
  displacement: usize,
  constraints: usize,
  colours: usize,
  colourCount: i32,
): void {
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, constraints);
  inColours(solveChunk.index, colours, colourCount, CHUNK);
}

function solveChunk(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1);
  const first = firstOf(chunk),
    end = endOf(chunk);
  let g = passed<usize>(2) + <usize>first * Group.BYTES;
  for (let n = first; n < end; n++, g += Group.BYTES) solveGroup(points, displacement, g, 1, false);
}

/**
 * One of `sweeps - 1` further sweeps over the groups that `listStretched` has listed, `list` and where each colour begins in it. One sweep a
 * substep leaves cloth near its supports stretched, since there a few faces carry all that hangs from them; sweeping those
 * few again costs little. The steps are scaled so that all sweeps together act as stiff as one sweep with
 * the weight divided by their number, and the fabric's own give stays what it is.
 */
export function solveMembraneAgain(
  points: usize,
  displacement: usize,
  list: usize,
  listed: usize,
  colourCount: i32,
  sweeps: f32,
  backward: bool,
): void {
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, list);
  pass<f32>(3, sweeps);
  inColours(solveListedChunk.index, listed, colourCount, CHUNK, backward);
}

function solveListedChunk(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    list = passed<usize>(2);
  const sweeps = passed<f32>(3);
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++) {
    solveGroup(points, displacement, <usize>load<u32>(list + (<usize>n << 2)), sweeps, true);
  }
}

/**
 * Lists the addresses of the groups that are to be swept again, with where each colour begins among them in `listed`, and returns their number. A group joins when any
 * warp or weft is stretched by more than `join`, and stays until all are below `leave`; `flags` (a byte a
 * group) remembers. Without that memory a group that sweeping relaxed would drop out, stretch, join again:
 * a limit cycle that an artist sees as jitter.
 */
export function listStretched(
  points: usize,
  constraints: usize,
  colours: usize,
  colourCount: i32,
  join: f32,
  leave: f32,
  flags: usize,
  list: usize,
  listed: usize,
): i32 {
  let found = 0;
  store<i32>(listed, 0);
  for (let c: usize = 0; c < <usize>colourCount; c++) {
    const first = load<i32>(colours + (c << 2)),
      end = load<i32>(colours + (c << 2), 4);
    found = listOfColour(points, constraints, first, end, join, leave, flags, list, found);
    store<i32>(listed + (c << 2), found, 4);
  }
  return found;
}

/** Lists those of the groups from one number up to another after `found` that are listed already; returns how many are then. */
function listOfColour(
  points: usize,
  constraints: usize,
  from: i32,
  to: i32,
  join: f32,
  leave: f32,
  flags: usize,
  list: usize,
  found: i32,
): i32 {
  let g = constraints + <usize>from * Group.BYTES;
  for (let n = from; n < to; n++, g += Group.BYTES) {
    const flag = flags + n;
    const limit = load<u8>(flag) ? leave : join;
    const most = (<f32>1 + limit) * (<f32>1 + limit);
    let stretched = false;
    for (let lane: usize = 0; lane < 16; lane += 4) {
      const p0 = v128.load(points + <usize>load<u32>(g + lane, Group.CORNER_0));
      const e1 = f32x4.sub(v128.load(points + <usize>load<u32>(g + lane, Group.CORNER_1)), p0),
        e2 = f32x4.sub(v128.load(points + <usize>load<u32>(g + lane, Group.CORNER_2)), p0);
      const warp = multiplyAdd(
        v128.load32_splat(g + lane, Group.WARP_1),
        e1,
        f32x4.mul(v128.load32_splat(g + lane, Group.WARP_2), e2),
      );
      const weft = multiplyAdd(
        v128.load32_splat(g + lane, Group.WEFT_1),
        e1,
        f32x4.mul(v128.load32_splat(g + lane, Group.WEFT_2), e2),
      );
      if (squaredLength(warp) > most || squaredLength(weft) > most) {
        stretched = true;
        break;
      }
    }
    store<u8>(flag, stretched ? 1 : 0);
    if (!stretched) continue;
    store<u32>(list + (found << 2), <u32>g);
    found++;
  }
  return found;
}

// @ts-ignore: decorator
@inline
function squaredLength(v: v128): f32 {
  const s = f32x4.mul(v, v);
  return f32x4.extract_lane(s, 0) + f32x4.extract_lane(s, 1) + f32x4.extract_lane(s, 2);
}

/** What divides the error: weight + compliance for a first sweep, more for a further one (see solveMembraneAgain). */
// @ts-ignore: decorator
@inline
function divisor(weight: v128, compliance: v128, sweeps: f32, again: bool): v128 {
  const once = f32x4.add(weight, compliance);
  if (!again) return once;
  return f32x4.div(
    f32x4.mul(once, multiplyAdd(f32x4.splat(sweeps), compliance, weight)),
    f32x4.pmax(weight, f32x4.splat(1e-20)),
  );
}

// @ts-ignore: decorator
@inline
function solveGroup(points: usize, displacement: usize, g: usize, sweeps: f32, again: bool): void {
  const zero = f32x4.splat(0);
  const one = f32x4.splat(1);
  const tiny = f32x4.splat(1e-20);
  const i0 = <usize>load<u32>(g, Group.CORNER_0),
    j0 = <usize>load<u32>(g, Group.CORNER_0 + 4),
    k0 = <usize>load<u32>(g, Group.CORNER_0 + 8),
    l0 = <usize>load<u32>(g, Group.CORNER_0 + 12);
  const i1 = <usize>load<u32>(g, Group.CORNER_1),
    j1 = <usize>load<u32>(g, Group.CORNER_1 + 4),
    k1 = <usize>load<u32>(g, Group.CORNER_1 + 8),
    l1 = <usize>load<u32>(g, Group.CORNER_1 + 12);
  const i2 = <usize>load<u32>(g, Group.CORNER_2),
    j2 = <usize>load<u32>(g, Group.CORNER_2 + 4),
    k2 = <usize>load<u32>(g, Group.CORNER_2 + 8),
    l2 = <usize>load<u32>(g, Group.CORNER_2 + 12);

  const pi = v128.load(points + i0),
    di = v128.load(displacement + i0);
  const pj = v128.load(points + j0),
    dj = v128.load(displacement + j0);
  const pk = v128.load(points + k0),
    dk = v128.load(displacement + k0);
  const pl = v128.load(points + l0),
    dl = v128.load(displacement + l0);

  // First edges of the four triangles, transposed to one coordinate a vector.
  let a = difference(v128.load(points + i1), v128.load(displacement + i1), pi, di);
  let b = difference(v128.load(points + j1), v128.load(displacement + j1), pj, dj);
  let c = difference(v128.load(points + k1), v128.load(displacement + k1), pk, dk);
  let d = difference(v128.load(points + l1), v128.load(displacement + l1), pl, dl);
  let low1 = interleaveLow(a, b),
    low2 = interleaveLow(c, d),
    high1 = interleaveHigh(a, b),
    high2 = interleaveHigh(c, d);
  let e1x = joinLow(low1, low2),
    e1y = joinHigh(low1, low2),
    e1z = joinLow(high1, high2);
  const w1less = joinHigh(high1, high2);

  a = difference(v128.load(points + i2), v128.load(displacement + i2), pi, di);
  b = difference(v128.load(points + j2), v128.load(displacement + j2), pj, dj);
  c = difference(v128.load(points + k2), v128.load(displacement + k2), pk, dk);
  d = difference(v128.load(points + l2), v128.load(displacement + l2), pl, dl);
  low1 = interleaveLow(a, b);
  low2 = interleaveLow(c, d);
  high1 = interleaveHigh(a, b);
  high2 = interleaveHigh(c, d);
  let e2x = joinLow(low1, low2),
    e2y = joinHigh(low1, low2),
    e2z = joinLow(high1, high2);
  const w2less = joinHigh(high1, high2);

  // Inverse masses ride in lane w of the points; the differences above hold w1 - w0 and w2 - w0.
  const w0 = joinHigh(interleaveHigh(pi, pj), interleaveHigh(pk, pl));
  const w1 = f32x4.add(w1less, w0),
    w2 = f32x4.add(w2less, w0);

  const ma = v128.load(g, Group.WARP_1),
    mb = v128.load(g, Group.WEFT_1),
    mc = v128.load(g, Group.WARP_2),
    md = v128.load(g, Group.WEFT_2);
  const softer = v128.load(g, Group.SOFTER);

  // Warp: C = |t| - 1, gradients a t/|t| and c t/|t| on corners 1 and 2, minus their sum on corner 0.
  let tx = multiplyAdd(ma, e1x, f32x4.mul(mc, e2x)),
    ty = multiplyAdd(ma, e1y, f32x4.mul(mc, e2y)),
    tz = multiplyAdd(ma, e1z, f32x4.mul(mc, e2z));
  let length = f32x4.sqrt(multiplyAdd(tx, tx, multiplyAdd(ty, ty, f32x4.mul(tz, tz))));
  let error = f32x4.sub(length, one);
  let compliance = v128.load(g, Group.WARP_COMPLIANCE);
  compliance = v128.bitselect(f32x4.mul(compliance, softer), compliance, f32x4.lt(error, zero));
  let sum = f32x4.add(ma, mc);
  let weight = multiplyAdd(
    w1,
    f32x4.mul(ma, ma),
    multiplyAdd(w2, f32x4.mul(mc, mc), f32x4.mul(w0, f32x4.mul(sum, sum))),
  );
  let scale = f32x4.neg(
    f32x4.div(error, f32x4.mul(divisor(weight, compliance, sweeps, again), f32x4.pmax(length, tiny))),
  );
  let s1 = f32x4.mul(scale, f32x4.mul(w1, ma)),
    s2 = f32x4.mul(scale, f32x4.mul(w2, mc)),
    s0 = f32x4.neg(f32x4.mul(scale, f32x4.mul(w0, sum)));
  let c0x = f32x4.mul(s0, tx),
    c0y = f32x4.mul(s0, ty),
    c0z = f32x4.mul(s0, tz);
  let c1x = f32x4.mul(s1, tx),
    c1y = f32x4.mul(s1, ty),
    c1z = f32x4.mul(s1, tz);
  let c2x = f32x4.mul(s2, tx),
    c2y = f32x4.mul(s2, ty),
    c2z = f32x4.mul(s2, tz);
  let r1 = f32x4.sub(s1, s0),
    r2 = f32x4.sub(s2, s0);
  e1x = multiplyAdd(r1, tx, e1x);
  e1y = multiplyAdd(r1, ty, e1y);
  e1z = multiplyAdd(r1, tz, e1z);
  e2x = multiplyAdd(r2, tx, e2x);
  e2y = multiplyAdd(r2, ty, e2y);
  e2z = multiplyAdd(r2, tz, e2z);

  // Weft: the same with b and d.
  tx = multiplyAdd(mb, e1x, f32x4.mul(md, e2x));
  ty = multiplyAdd(mb, e1y, f32x4.mul(md, e2y));
  tz = multiplyAdd(mb, e1z, f32x4.mul(md, e2z));
  length = f32x4.sqrt(multiplyAdd(tx, tx, multiplyAdd(ty, ty, f32x4.mul(tz, tz))));
  error = f32x4.sub(length, one);
  compliance = v128.load(g, Group.WEFT_COMPLIANCE);
  compliance = v128.bitselect(f32x4.mul(compliance, softer), compliance, f32x4.lt(error, zero));
  sum = f32x4.add(mb, md);
  weight = multiplyAdd(
    w1,
    f32x4.mul(mb, mb),
    multiplyAdd(w2, f32x4.mul(md, md), f32x4.mul(w0, f32x4.mul(sum, sum))),
  );
  scale = f32x4.neg(
    f32x4.div(error, f32x4.mul(divisor(weight, compliance, sweeps, again), f32x4.pmax(length, tiny))),
  );
  s1 = f32x4.mul(scale, f32x4.mul(w1, mb));
  s2 = f32x4.mul(scale, f32x4.mul(w2, md));
  s0 = f32x4.neg(f32x4.mul(scale, f32x4.mul(w0, sum)));
  c0x = multiplyAdd(s0, tx, c0x);
  c0y = multiplyAdd(s0, ty, c0y);
  c0z = multiplyAdd(s0, tz, c0z);
  c1x = multiplyAdd(s1, tx, c1x);
  c1y = multiplyAdd(s1, ty, c1y);
  c1z = multiplyAdd(s1, tz, c1z);
  c2x = multiplyAdd(s2, tx, c2x);
  c2y = multiplyAdd(s2, ty, c2y);
  c2z = multiplyAdd(s2, tz, c2z);
  r1 = f32x4.sub(s1, s0);
  r2 = f32x4.sub(s2, s0);
  e1x = multiplyAdd(r1, tx, e1x);
  e1y = multiplyAdd(r1, ty, e1y);
  e1z = multiplyAdd(r1, tz, e1z);
  e2x = multiplyAdd(r2, tx, e2x);
  e2y = multiplyAdd(r2, ty, e2y);
  e2z = multiplyAdd(r2, tz, e2z);

  // Shear: C = warp tangent . weft tangent, the sine of the shear angle for unstretched threads.
  tx = multiplyAdd(ma, e1x, f32x4.mul(mc, e2x));
  ty = multiplyAdd(ma, e1y, f32x4.mul(mc, e2y));
  tz = multiplyAdd(ma, e1z, f32x4.mul(mc, e2z));
  const vx = multiplyAdd(mb, e1x, f32x4.mul(md, e2x)),
    vy = multiplyAdd(mb, e1y, f32x4.mul(md, e2y)),
    vz = multiplyAdd(mb, e1z, f32x4.mul(md, e2z));
  error = multiplyAdd(tx, vx, multiplyAdd(ty, vy, f32x4.mul(tz, vz)));
  const g1x = multiplyAdd(ma, vx, f32x4.mul(mb, tx)),
    g1y = multiplyAdd(ma, vy, f32x4.mul(mb, ty)),
    g1z = multiplyAdd(ma, vz, f32x4.mul(mb, tz));
  const g2x = multiplyAdd(mc, vx, f32x4.mul(md, tx)),
    g2y = multiplyAdd(mc, vy, f32x4.mul(md, ty)),
    g2z = multiplyAdd(mc, vz, f32x4.mul(md, tz));
  const g0x = f32x4.add(g1x, g2x),
    g0y = f32x4.add(g1y, g2y),
    g0z = f32x4.add(g1z, g2z);
  weight = multiplyAdd(
    w1,
    multiplyAdd(g1x, g1x, multiplyAdd(g1y, g1y, f32x4.mul(g1z, g1z))),
    multiplyAdd(
      w2,
      multiplyAdd(g2x, g2x, multiplyAdd(g2y, g2y, f32x4.mul(g2z, g2z))),
      f32x4.mul(w0, multiplyAdd(g0x, g0x, multiplyAdd(g0y, g0y, f32x4.mul(g0z, g0z)))),
    ),
  );
  scale = f32x4.neg(
    f32x4.div(error, f32x4.pmax(divisor(weight, v128.load(g, Group.SHEAR_COMPLIANCE), sweeps, again), tiny)),
  );
  s1 = f32x4.mul(scale, w1);
  s2 = f32x4.mul(scale, w2);
  s0 = f32x4.neg(f32x4.mul(scale, w0));
  c0x = multiplyAdd(s0, g0x, c0x);
  c0y = multiplyAdd(s0, g0y, c0y);
  c0z = multiplyAdd(s0, g0z, c0z);
  c1x = multiplyAdd(s1, g1x, c1x);
  c1y = multiplyAdd(s1, g1y, c1y);
  c1z = multiplyAdd(s1, g1z, c1z);
  c2x = multiplyAdd(s2, g2x, c2x);
  c2y = multiplyAdd(s2, g2y, c2y);
  c2z = multiplyAdd(s2, g2z, c2z);

  scatter(displacement, i0, j0, k0, l0, c0x, c0y, c0z);
  scatter(displacement, i1, j1, k1, l1, c1x, c1y, c1z);
  scatter(displacement, i2, j2, k2, l2, c2x, c2y, c2z);
}

/** Adds four corrections, held a coordinate a vector, to four points. */
// @ts-ignore: decorator
@inline
function scatter(
  displacement: usize,
  i: usize,
  j: usize,
  k: usize,
  l: usize,
  x: v128,
  y: v128,
  z: v128,
): void {
  const zero = f32x4.splat(0);
  const xy01 = interleaveLow(x, y),
    xy23 = interleaveHigh(x, y);
  const z01 = interleaveLow(z, zero),
    z23 = interleaveHigh(z, zero);
  v128.store(displacement + i, f32x4.add(v128.load(displacement + i), joinLow(xy01, z01)));
  v128.store(displacement + j, f32x4.add(v128.load(displacement + j), joinHigh(xy01, z01)));
  v128.store(displacement + k, f32x4.add(v128.load(displacement + k), joinLow(xy23, z23)));
  v128.store(displacement + l, f32x4.add(v128.load(displacement + l), joinHigh(xy23, z23)));
}
