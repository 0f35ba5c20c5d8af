import { larger, smaller } from './lanes';
import { carriedX, carriedY, carriedZ, isDeforming, meshDistance, noCarry } from './meshDistance';

// Signed distance from a point to a collider, in double. A collider takes 192 bytes:
//   0 i32 kind | 4 f32 static friction | 8 f32 moving friction | 12 f32 target distance in m
//   16 f32 x 3 centre | 28 i32 side that counts: 0 both, 1 outside, -1 inside
//   32 f32 x 9 rotation, columns are the collider's own axes
//   68 f32 x 3 half size of a box; radius and half height of a cylinder or capsule; radius of a ball
//   80 u32 mesh (see meshDistance.ts), of an exact body that of its surface; 0 for a plane | 84 i32 1 while it moves | 88 f32 how much nearer the inside of a face may come
//   92 f32 bounce: the share of the speed of cloth that hits it that is thrown back
//   96 f32 x 3 low and 112 f32 x 3 high corner of the box around it, at any time of the substep
//   128 f32 x 3 centre and 144 f32 x 9 rotation when the substep began
// A mesh is in the collider's own axes. The results are left in these globals: distance in m (negative on the side that
// does not count) and the unit normal towards the side that counts.
export const COLLIDER_BYTES: i32 = 192;
export const PLANE: i32 = 0;
export const BALL: i32 = 1;
export const BOX: i32 = 2;
export const CYLINDER: i32 = 3;
export const MESH: i32 = 4;
export const CAPSULE: i32 = 5;

export let distance: f64 = 0;
export let normalX: f64 = 0;
export let normalY: f64 = 0;
export let normalZ: f64 = 0;

/** What a mesh's distance query writes. */
export function setDistance(d: f64, x: f64, y: f64, z: f64): void {
  distance = d;
  normalX = x;
  normalY = y;
  normalZ = z;
}

/** How far, in m in the world, a deforming mesh has carried the place that was nearest in the last `distanceTo`, in this substep. */
export let carryX: f64 = 0;
export let carryY: f64 = 0;
export let carryZ: f64 = 0;

export let startOfX: f64 = 0;
export let startOfY: f64 = 0;
export let startOfZ: f64 = 0;

// @ts-ignore: decorator
@inline
export function isMoving(collider: usize): bool {
  return load<i32>(collider, 84) != 0;
}

/** Where a place, fixed to the collider as it was when the substep began, has been carried to by its end. */
export function traceBack(collider: usize, x: f64, y: f64, z: f64): void {
  const rx = x - <f64>load<f32>(collider, 128),
    ry = y - <f64>load<f32>(collider, 132),
    rz = z - <f64>load<f32>(collider, 136);
  const before = collider + 144,
    after = collider + 32;
  const lx = turnedBack(before, 0, rx, ry, rz),
    ly = turnedBack(before, 12, rx, ry, rz),
    lz = turnedBack(before, 24, rx, ry, rz);
  startOfX = <f64>load<f32>(collider, 16) + turned(after, 0, lx, ly, lz);
  startOfY = <f64>load<f32>(collider, 20) + turned(after, 4, lx, ly, lz);
  startOfZ = <f64>load<f32>(collider, 24) + turned(after, 8, lx, ly, lz);
}

/** One coordinate in the axes of a rotation: `axis` is the byte of its column. */
// @ts-ignore: decorator
@inline
function turnedBack(rotation: usize, axis: usize, x: f64, y: f64, z: f64): f64 {
  return (
    <f64>load<f32>(rotation + axis) * x +
    <f64>load<f32>(rotation + axis, 4) * y +
    <f64>load<f32>(rotation + axis, 8) * z
  );
}

/** One coordinate in the world: `row` is the byte of the coordinate. */
// @ts-ignore: decorator
@inline
function turned(rotation: usize, row: usize, x: f64, y: f64, z: f64): f64 {
  return (
    <f64>load<f32>(rotation + row) * x +
    <f64>load<f32>(rotation + row, 12) * y +
    <f64>load<f32>(rotation + row, 24) * z
  );
}

/** A place of the world in the collider's own axes, as it is at the end of the substep. */
// @ts-ignore: decorator
@inline
export function localNow(collider: usize, place: v128): v128 {
  return local(collider + 32, v128.load(collider, 16), place);
}

/** The same as it was when the substep began. */
// @ts-ignore: decorator
@inline
export function localThen(collider: usize, place: v128): v128 {
  return local(collider + 144, v128.load(collider, 128), place);
}

function local(rotation: usize, centre: v128, place: v128): v128 {
  // In double: rounded to single after the turn, or it would be off by the rounding of three products.
  const x = <f64>f32x4.extract_lane(place, 0) - <f64>f32x4.extract_lane(centre, 0),
    y = <f64>f32x4.extract_lane(place, 1) - <f64>f32x4.extract_lane(centre, 1),
    z = <f64>f32x4.extract_lane(place, 2) - <f64>f32x4.extract_lane(centre, 2);
  return f32x4(
    <f32>turnedBack(rotation, 0, x, y, z),
    <f32>turnedBack(rotation, 12, x, y, z),
    <f32>turnedBack(rotation, 24, x, y, z),
    0,
  );
}

/** A direction in the collider's axes, in the world at the end of the substep. */
// @ts-ignore: decorator
@inline
export function toWorld(collider: usize, direction: v128): v128 {
  const x = <f64>f32x4.extract_lane(direction, 0),
    y = <f64>f32x4.extract_lane(direction, 1),
    z = <f64>f32x4.extract_lane(direction, 2);
  const rotation = collider + 32;
  return f32x4(
    <f32>turned(rotation, 0, x, y, z),
    <f32>turned(rotation, 4, x, y, z),
    <f32>turned(rotation, 8, x, y, z),
    0,
  );
}

/** Distance in the collider's own axes, of its outside. */
function localDistance(collider: usize, kind: i32, x: f64, y: f64, z: f64): void {
  if (kind == BALL) {
    const length = Math.sqrt(x * x + y * y + z * z);
    const radius = <f64>load<f32>(collider, 68);
    if (length < 1e-9) setDistance(-radius, 0, 1, 0);
    else setDistance(length - radius, x / length, y / length, z / length);
  } else if (kind == PLANE) setDistance(y, 0, 1, 0);
  else if (kind == CAPSULE) capsuleDistance(collider, x, y, z);
  else if (kind == BOX) boxDistance(collider, x, y, z);
  else cylinderDistance(collider, x, y, z);
}

/**
 * Distance from (x, y, z) to the collider where it is now. Where both sides count, the place (fromX, fromY, fromZ), fixed to the collider,
 * says on which side the point belongs. Beyond `reach` metres a mesh may answer only that it is farther than that; with no reach it answers for nothing
 * but the triangle that is looked at first.
 */
export function distanceTo(
  collider: usize,
  x: f64,
  y: f64,
  z: f64,
  fromX: f64,
  fromY: f64,
  fromZ: f64,
  reach: f64,
): void {
  const kind = load<i32>(collider);
  const side = load<i32>(collider, 28);
  const cx = <f64>load<f32>(collider, 16),
    cy = <f64>load<f32>(collider, 20),
    cz = <f64>load<f32>(collider, 24);
  const rotation = collider + 32;
  const rx = x - cx,
    ry = y - cy,
    rz = z - cz;
  const lx = turnedBack(rotation, 0, rx, ry, rz),
    ly = turnedBack(rotation, 12, rx, ry, rz),
    lz = turnedBack(rotation, 24, rx, ry, rz);
  let flip = side < 0;
  noCarry();
  if (kind == MESH || side == 0) {
    const sx = fromX - cx,
      sy = fromY - cy,
      sz = fromZ - cz;
    const fx = turnedBack(rotation, 0, sx, sy, sz),
      fy = turnedBack(rotation, 12, sx, sy, sz),
      fz = turnedBack(rotation, 24, sx, sy, sz);
    if (kind == MESH) {
      meshDistance(<usize>load<u32>(collider, 80), side != 0, lx, ly, lz, fx, fy, fz, reach);
    } else {
      localDistance(collider, kind, fx, fy, fz);
      flip = distance < 0;
      localDistance(collider, kind, lx, ly, lz);
    }
  } else localDistance(collider, kind, lx, ly, lz);
  const nx = normalX,
    ny = normalY,
    nz = normalZ;
  const sign: f64 = flip ? -1 : 1;
  // Beyond its reach a mesh answers with the reach, on whichever side.
  if (!(kind == MESH && reach > 0 && distance >= reach)) distance *= sign;
  normalX = sign * turned(rotation, 0, nx, ny, nz);
  normalY = sign * turned(rotation, 4, nx, ny, nz);
  normalZ = sign * turned(rotation, 8, nx, ny, nz);
  if (kind != MESH) return;
  const mx = carriedX,
    my = carriedY,
    mz = carriedZ;
  carryX = turned(rotation, 0, mx, my, mz);
  carryY = turned(rotation, 4, mx, my, mz);
  carryZ = turned(rotation, 8, mx, my, mz);
}

/** Whether a collider changes its shape, so that each place of its surface moves in its own way. */
// @ts-ignore: decorator
@inline
export function changesShape(collider: usize): bool {
  return load<i32>(collider) == MESH && isDeforming(<usize>load<u32>(collider, 80));
}

/** Whether a place lies outside a box: a quick no before the exact distance. */
// @ts-ignore: decorator
@inline
export function isFarFrom(low: v128, high: v128, place: v128): bool {
  const inside = v128.and(f32x4.ge(place, low), f32x4.le(place, high));
  return (i32x4.bitmask(inside) & 7) != 7;
}

function boxDistance(collider: usize, x: f64, y: f64, z: f64): void {
  const qx = Math.abs(x) - <f64>load<f32>(collider, 68),
    qy = Math.abs(y) - <f64>load<f32>(collider, 72),
    qz = Math.abs(z) - <f64>load<f32>(collider, 76);
  const sx: f64 = x < 0 ? -1 : 1,
    sy: f64 = y < 0 ? -1 : 1,
    sz: f64 = z < 0 ? -1 : 1;
  if (qx <= 0 && qy <= 0 && qz <= 0) {
    if (qx >= qy && qx >= qz) setDistance(qx, sx, 0, 0);
    else if (qy >= qz) setDistance(qy, 0, sy, 0);
    else setDistance(qz, 0, 0, sz);
    return;
  }
  const ox = larger<f64>(qx, 0),
    oy = larger<f64>(qy, 0),
    oz = larger<f64>(qz, 0);
  const length = Math.sqrt(ox * ox + oy * oy + oz * oz);
  if (length > 0) setDistance(length, (sx * ox) / length, (sy * oy) / length, (sz * oz) / length);
}

/** A capsule along its own y; its half height reaches to the middle of its round ends. */
function capsuleDistance(collider: usize, x: f64, y: f64, z: f64): void {
  const half = <f64>load<f32>(collider, 72);
  const up = y - larger<f64>(-half, smaller<f64>(half, y));
  const length = Math.sqrt(x * x + up * up + z * z);
  const radius = <f64>load<f32>(collider, 68);
  if (length < 1e-9) setDistance(-radius, 1, 0, 0);
  else setDistance(length - radius, x / length, up / length, z / length);
}

/** A closed cylinder along its own y. */
function cylinderDistance(collider: usize, x: f64, y: f64, z: f64): void {
  const around = Math.sqrt(x * x + z * z);
  const q = around - <f64>load<f32>(collider, 68),
    h = Math.abs(y) - <f64>load<f32>(collider, 72);
  const sy: f64 = y < 0 ? -1 : 1;
  const ux = around > 1e-9 ? x / around : 1,
    uz = around > 1e-9 ? z / around : 0;
  if (q <= 0 && h <= 0) {
    if (q >= h) setDistance(q, ux, 0, uz);
    else setDistance(h, 0, sy, 0);
    return;
  }
  const o = larger<f64>(q, 0),
    u = larger<f64>(h, 0);
  const length = Math.sqrt(o * o + u * u);
  if (length > 0) setDistance(length, (ux * o) / length, (sy * u) / length, (uz * o) / length);
}
