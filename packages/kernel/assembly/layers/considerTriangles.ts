import { centre, plan, sewn } from './data';
import { areOne, areSewn, distanceOf, frictionOf, isOneCloth, touch } from './meeting';
import { boxMarginOf, considerPair, JOINED, marginOf, stepsAhead } from './pairs';
import { lieSpread } from './stars';
import * as Pair from '../../layouts/layers/featurePair';
import * as Triangle from '../../layouts/layers/layerTriangle';

// The features of two triangles: points of one against the other, and edges of both. Most of them are told apart by their boxes, so these are
// put together once for each feature and not for each pair. Which corners are one, and which a seam draws together, is nine bits: bit 3 n + m for
// corner n of the first and corner m of the second.

// @ts-ignore: decorator
@inline
function corner(triangle: usize, n: i32): usize {
  return <usize>load<u32>(triangle + (<usize>n << 2), Triangle.CORNER_0);
}

// @ts-ignore: decorator
@inline
function next(n: i32): i32 {
  return n == 2 ? 0 : n + 1;
}

/** Which corners of two triangles are one. */
// @ts-ignore: decorator
@inline
function onesOf(s: usize, t: usize): i32 {
  let bits: i32 = 0;
  const corners = v128.load(t, Triangle.CORNER_0);
  for (let n = 0; n < 3; n++) {
    const own = corner(s, n);
    bits |= (i32x4.bitmask(i32x4.eq(corners, i32x4.splat(<i32>own))) & 7) << (3 * n);
    if (sewn == 0) continue;
    for (let m = 0; m < 3; m++) if (areOne(own, corner(t, m))) bits |= 1 << (3 * n + m);
  }
  return bits;
}

/** Which corners of two triangles a seam draws together. */
// @ts-ignore: decorator
@inline
function sewnOf(s: usize, t: usize): i32 {
  let bits: i32 = 0;
  if (sewn == 0) return bits;
  for (let n = 0; n < 3; n++) {
    for (let m = 0; m < 3; m++) if (areSewn(corner(s, n), corner(t, m))) bits |= 1 << (3 * n + m);
  }
  return bits;
}

/** Considers all features that two triangles own. */
export function considerTriangles(s: usize, t: usize): void {
  const thickness = distanceOf(s, t);
  if (isOneCloth() && lieSpread(s, t, <f32>marginOf(thickness))) return;
  if (!touch(s, t)) return;
  const friction = frictionOf(s, t);
  const ones = onesOf(s, t),
    drawn = sewnOf(s, t);
  pointsAgainst(s, t, ones, drawn, 7, 3, thickness, friction);
  pointsAgainst(t, s, ones, drawn, 0b1001001, 1, thickness, friction);
  edgesAgainst(s, t, ones, drawn, thickness, friction);
}

/** The points that s owns against t; `bits` are those of its first corner, and `shift` leads to those of the next. */
// @ts-ignore: decorator
@inline
function pointsAgainst(s: usize, t: usize, ones: i32, drawn: i32, bits: i32, shift: i32, thickness: f32, friction: f32): void {
  const owned = load<u32>(s, Triangle.FLAGS);
  if ((owned & Triangle.OWNS_ANY_CORNER) == 0) return;
  const steps = f32x4.splat(stepsAhead());
  const t0 = corner(t, 0),
    t1 = corner(t, 1),
    t2 = corner(t, 2);
  const x0 = v128.load(centre + t0),
    x1 = v128.load(centre + t1),
    x2 = v128.load(centre + t2);
  const u0 = f32x4.mul(v128.load(plan + t0), steps),
    u1 = f32x4.mul(v128.load(plan + t1), steps),
    u2 = f32x4.mul(v128.load(plan + t2), steps);
  const low = f32x4.pmin(f32x4.pmin(x1, x2), x0),
    high = f32x4.pmax(f32x4.pmax(x1, x2), x0),
    least = f32x4.pmin(f32x4.pmin(u1, u2), u0),
    most = f32x4.pmax(f32x4.pmax(u1, u2), u0);
  for (let n = 0; n < 3; n++) {
    const those = bits << (shift * n);
    if ((owned & (Triangle.OWNS_CORNER << n)) == 0 || (ones & those) != 0) continue;
    const p = corner(s, n);
    const x = v128.load(centre + p),
      u = f32x4.mul(v128.load(plan + p), steps);
    const isDrawn = (drawn & those) != 0;
    const distance = isDrawn ? JOINED : thickness;
    if (areFar(x, x, u, u, low, high, least, most, distance)) continue;
    considerPair(Pair.KIND_POINT_TRIANGLE, p, t0, t1, t2, distance, isDrawn ? 0 : friction);
  }
}

/** The edges that s owns against those that t owns. */
// @ts-ignore: decorator
@inline
function edgesAgainst(s: usize, t: usize, ones: i32, drawn: i32, thickness: f32, friction: f32): void {
  const steps = f32x4.splat(stepsAhead());
  const ownedOfS = load<u32>(s, Triangle.FLAGS),
    ownedOfT = load<u32>(t, Triangle.FLAGS);
  for (let n = 0; n < 3; n++) {
    if ((ownedOfS & (Triangle.OWNS_EDGE << n)) == 0) continue;
    const a = corner(s, n),
      b = corner(s, next(n));
    const xa = v128.load(centre + a),
      xb = v128.load(centre + b);
    const ua = f32x4.mul(v128.load(plan + a), steps),
      ub = f32x4.mul(v128.load(plan + b), steps);
    const low = f32x4.pmin(xa, xb),
      high = f32x4.pmax(xa, xb),
      least = f32x4.pmin(ua, ub),
      most = f32x4.pmax(ua, ub);
    for (let m = 0; m < 3; m++) {
      if ((ownedOfT & (Triangle.OWNS_EDGE << m)) == 0) continue;
      const ends = (1 << m) | (1 << next(m));
      const those = (ends << (3 * n)) | (ends << (3 * next(n)));
      if ((ones & those) != 0) continue;
      const c = corner(t, m),
        d = corner(t, next(m));
      const xc = v128.load(centre + c),
        xd = v128.load(centre + d);
      const uc = f32x4.mul(v128.load(plan + c), steps),
        ud = f32x4.mul(v128.load(plan + d), steps);
      const isDrawn = (drawn & those) != 0;
      const distance = isDrawn ? JOINED : thickness;
      const lowOfT = f32x4.pmin(xc, xd),
        highOfT = f32x4.pmax(xc, xd),
        leastOfT = f32x4.pmin(uc, ud),
        mostOfT = f32x4.pmax(uc, ud);
      if (areFar(low, high, least, most, lowOfT, highOfT, leastOfT, mostOfT, distance)) continue;
      considerPair(Pair.KIND_EDGES, a, b, c, d, distance, isDrawn ? 0 : friction);
    }
  }
}

/** Whether the boxes of two features, grown by their radii (the fourth lanes) and planned motion, keep apart over the horizon. */
// @ts-ignore: decorator
@inline
function areFar(
  aLow: v128,
  aHigh: v128,
  aLeast: v128,
  aMost: v128,
  bLow: v128,
  bHigh: v128,
  bLeast: v128,
  bMost: v128,
  distance: f32,
): bool {
  const zero = f32x4.splat(0);
  const reach = f32x4.splat(f32x4.extract_lane(aHigh, 3) + f32x4.extract_lane(bHigh, 3) + boxMarginOf(distance));
  const below = f32x4.add(aLow, f32x4.pmin(zero, f32x4.sub(aLeast, bMost))),
    above = f32x4.add(bLow, f32x4.pmin(zero, f32x4.sub(bLeast, aMost)));
  const meet = v128.and(
    f32x4.le(f32x4.sub(below, bHigh), reach),
    f32x4.le(f32x4.sub(above, aHigh), reach),
  );
  return (i32x4.bitmask(meet) & 7) != 7;
}
