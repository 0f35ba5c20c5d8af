import * as Point from '../layouts/point';

// Friction between yarns: slow motion is slowed, and only that of the cloth against itself. What a cloth does as a rigid whole costs its
// yarns nothing: cloth that rides, falls or turns is not braked. Pinned cloth goes as its held points do, other cloth as the
// rigid motion that is nearest to that of all its points.

/** A least inertia, as a share of that of the whole: about the line of a row of pins nothing tells how it turns. */
const LEAST_INERTIA: f64 = 1e-4;

let middleX: f64 = 0;
let middleY: f64 = 0;
let middleZ: f64 = 0;
let speedX: f64 = 0;
let speedY: f64 = 0;
let speedZ: f64 = 0;
let turnX: f64 = 0;
let turnY: f64 = 0;
let turnZ: f64 = 0;

/**
 * Adds to the acceleration of every free point of a cloth what slows its motion relative to the rigid motion of the whole: at most
 * `slowing` m/s^2 and never more than `mostSlowing`, in proportion to speed well below `slowSpeed` m/s. It ends the long slow swinging
 * that viscous damping leaves, and does not move where cloth comes to rest. `shares` has an f32 a point of how much of that a
 * mask leaves it, or is 0.
 */
export function addYarnFriction(
  points: usize,
  velocity: usize,
  acceleration: usize,
  count: i32,
  slowing: f32,
  mostSlowing: f32,
  slowSpeed: f32,
  shares: usize,
): void {
  fitRigidMotion(points, velocity, count);
  const end = <usize>count << 4;
  for (let at: usize = 0; at < end; at += 16) {
    if (load<f32>(points + at, Point.INVERSE_MASS) == 0) continue;
    const x = <f64>load<f32>(points + at) - middleX,
      y = <f64>load<f32>(points + at, 4) - middleY,
      z = <f64>load<f32>(points + at, 8) - middleZ;
    const carried = f32x4(
      <f32>(speedX + turnY * z - turnZ * y),
      <f32>(speedY + turnZ * x - turnX * z),
      <f32>(speedZ + turnX * y - turnY * x),
      0,
    );
    const v = f32x4.sub(v128.load(velocity + at), carried);
    const s = f32x4.mul(v, v);
    const speed = Mathf.sqrt(f32x4.extract_lane(s, 0) + f32x4.extract_lane(s, 1) + f32x4.extract_lane(s, 2));
    const own = min(mostSlowing, shares == 0 ? slowing : slowing * load<f32>(shares + (at >> 2)));
    const against = f32x4.mul(v, f32x4.splat(own / (slowSpeed + speed)));
    v128.store(acceleration + at, f32x4.sub(v128.load(acceleration + at), against));
  }
}

/** Mean velocity and turning about the middle: of the held points where there are any, else of all by their masses. */
function fitRigidMotion(points: usize, velocity: usize, count: i32): void {
  const end = points + (<usize>count << 4);
  const toVelocity = velocity - points;
  let held = false;
  for (let at = points; at < end; at += 16) held = held || load<f32>(at, Point.INVERSE_MASS) == 0;
  let total: f64 = 0;
  middleX = middleY = middleZ = speedX = speedY = speedZ = turnX = turnY = turnZ = 0;
  for (let at = points; at < end; at += 16) {
    const weight = weightOf(at, held);
    if (weight == 0) continue;
    const v = at + toVelocity;
    total += weight;
    middleX += weight * <f64>load<f32>(at);
    middleY += weight * <f64>load<f32>(at, 4);
    middleZ += weight * <f64>load<f32>(at, 8);
    speedX += weight * <f64>load<f32>(v);
    speedY += weight * <f64>load<f32>(v, 4);
    speedZ += weight * <f64>load<f32>(v, 8);
  }
  if (!(total > 0)) return;
  middleX /= total;
  middleY /= total;
  middleZ /= total;
  speedX /= total;
  speedY /= total;
  speedZ /= total;
  let xx: f64 = 0,
    yy: f64 = 0,
    zz: f64 = 0,
    xy: f64 = 0,
    yz: f64 = 0,
    zx: f64 = 0,
    momentX: f64 = 0,
    momentY: f64 = 0,
    momentZ: f64 = 0;
  for (let at = points; at < end; at += 16) {
    const weight = weightOf(at, held);
    if (weight == 0) continue;
    const v = at + toVelocity;
    const x = <f64>load<f32>(at) - middleX,
      y = <f64>load<f32>(at, 4) - middleY,
      z = <f64>load<f32>(at, 8) - middleZ;
    const u = <f64>load<f32>(v) - speedX,
      w = <f64>load<f32>(v, 4) - speedY,
      t = <f64>load<f32>(v, 8) - speedZ;
    xx += weight * x * x;
    yy += weight * y * y;
    zz += weight * z * z;
    xy += weight * x * y;
    yz += weight * y * z;
    zx += weight * z * x;
    momentX += weight * (y * t - z * w);
    momentY += weight * (z * u - x * t);
    momentZ += weight * (x * w - y * u);
  }
  const least = LEAST_INERTIA * (xx + yy + zz);
  if (!(least > 0)) return;
  // The tensor of inertia, symmetric, solved for the turning by its cofactors.
  const a = yy + zz + least,
    b = xx + zz + least,
    c = xx + yy + least;
  const aa = b * c - yz * yz,
    bb = a * c - zx * zx,
    cc = a * b - xy * xy,
    ab = yz * zx + xy * c,
    bc = zx * xy + yz * a,
    ca = xy * yz + zx * b;
  const determinant = a * aa - xy * ab - zx * ca;
  if (!(determinant > 0)) return;
  turnX = (aa * momentX + ab * momentY + ca * momentZ) / determinant;
  turnY = (ab * momentX + bb * momentY + bc * momentZ) / determinant;
  turnZ = (ca * momentX + bc * momentY + cc * momentZ) / determinant;
}

// @ts-ignore: decorator
@inline
function weightOf(at: usize, held: bool): f64 {
  const inverse = load<f32>(at, Point.INVERSE_MASS);
  if (held) return inverse == 0 ? 1 : 0;
  return inverse > 0 ? 1 / <f64>inverse : 0;
}
