import { larger, smaller } from './lanes';
import { carriedX, carriedY, carriedZ, isDeforming, meshDistance, noCarry } from './meshDistance';
import * as Collider from '../layouts/contact/collider';

// Signed distance from a point to a collider, in double. The results are left in these globals: distance in m (negative on the side that does not count)
// and the unit normal towards the side that counts.

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
  return load<i32>(collider, Collider.MOVES) != 0;
}

/** Where a place, fixed to the collider as it was when the substep began, has been carried to by its end. */
export function traceBack(collider: usize, x: f64, y: f64, z: f64): void {
  const rx = x - <f64>load<f32>(collider, Collider.CENTRE_THEN),
    ry = y - <f64>load<f32>(collider, Collider.CENTRE_THEN + 4),
    rz = z - <f64>load<f32>(collider, Collider.CENTRE_THEN + 8);
  const before = collider + Collider.ROTATION_THEN,
    after = collider + Collider.ROTATION;
  const lx = turnedBack(before, 0, rx, ry, rz),
    ly = turnedBack(before, 12, rx, ry, rz),
    lz = turnedBack(before, 24, rx, ry, rz);
  startOfX = <f64>load<f32>(collider, Collider.CENTRE) + turned(after, 0, lx, ly, lz);
  startOfY = <f64>load<f32>(collider, Collider.CENTRE + 4) + turned(after, 4, lx, ly, lz);
  startOfZ = <f64>load<f32>(collider, Collider.CENTRE + 8) + turned(after, 8, lx, ly, lz);
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
  return local(collider + Collider.ROTATION, v128.load(collider, Collider.CENTRE), place);
}

/** The same as it was when the substep began. */
// @ts-ignore: decorator
@inline
export function localThen(collider: usize, place: v128): v128 {
  return local(collider + Collider.ROTATION_THEN, v128.load(collider, Collider.CENTRE_THEN), place);
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
  const rotation = collider + Collider.ROTATION;
  return f32x4(
    <f32>turned(rotation, 0, x, y, z),
    <f32>turned(rotation, 4, x, y, z),
    <f32>turned(rotation, 8, x, y, z),
    0,
  );
}

/** Distance in the collider's own axes, of its outside. */
function localDistance(collider: usize, kind: i32, x: f64, y: f64, z: f64): void {
  if (kind == Collider.KIND_BALL) {
    const length = Math.sqrt(x * x + y * y + z * z);
    const radius = <f64>load<f32>(collider, Collider.SIZE);
    if (length < 1e-9) setDistance(-radius, 0, 1, 0);
    else setDistance(length - radius, x / length, y / length, z / length);
  } else if (kind == Collider.KIND_PLANE) setDistance(y, 0, 1, 0);
  else if (kind == Collider.KIND_CAPSULE) capsuleDistance(collider, x, y, z);
  else if (kind == Collider.KIND_BOX) boxDistance(collider, x, y, z);
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
  const kind = load<i32>(collider, Collider.KIND);
  const side = load<i32>(collider, Collider.SIDE);
  const cx = <f64>load<f32>(collider, Collider.CENTRE),
    cy = <f64>load<f32>(collider, Collider.CENTRE + 4),
    cz = <f64>load<f32>(collider, Collider.CENTRE + 8);
  const rotation = collider + Collider.ROTATION;
  const rx = x - cx,
    ry = y - cy,
    rz = z - cz;
  const lx = turnedBack(rotation, 0, rx, ry, rz),
    ly = turnedBack(rotation, 12, rx, ry, rz),
    lz = turnedBack(rotation, 24, rx, ry, rz);
  let flip = side < 0;
  noCarry();
  if (kind == Collider.KIND_MESH || side == 0) {
    const sx = fromX - cx,
      sy = fromY - cy,
      sz = fromZ - cz;
    const fx = turnedBack(rotation, 0, sx, sy, sz),
      fy = turnedBack(rotation, 12, sx, sy, sz),
      fz = turnedBack(rotation, 24, sx, sy, sz);
    if (kind == Collider.KIND_MESH) {
      meshDistance(<usize>load<u32>(collider, Collider.MESH), side != 0, lx, ly, lz, fx, fy, fz, reach);
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
  if (!(kind == Collider.KIND_MESH && reach > 0 && distance >= reach)) distance *= sign;
  normalX = sign * turned(rotation, 0, nx, ny, nz);
  normalY = sign * turned(rotation, 4, nx, ny, nz);
  normalZ = sign * turned(rotation, 8, nx, ny, nz);
  if (kind != Collider.KIND_MESH) return;
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
  return load<i32>(collider, Collider.KIND) == Collider.KIND_MESH && isDeforming(<usize>load<u32>(collider, Collider.MESH));
}

/** Whether a place lies outside a box: a quick no before the exact distance. */
// @ts-ignore: decorator
@inline
export function isFarFrom(low: v128, high: v128, place: v128): bool {
  const inside = v128.and(f32x4.ge(place, low), f32x4.le(place, high));
  return (i32x4.bitmask(inside) & 7) != 7;
}

function boxDistance(collider: usize, x: f64, y: f64, z: f64): void {
  const qx = Math.abs(x) - <f64>load<f32>(collider, Collider.SIZE),
    qy = Math.abs(y) - <f64>load<f32>(collider, Collider.SIZE + 4),
    qz = Math.abs(z) - <f64>load<f32>(collider, Collider.SIZE + 8);
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
  const half = <f64>load<f32>(collider, Collider.SIZE + 4);
  const up = y - larger<f64>(-half, smaller<f64>(half, y));
  const length = Math.sqrt(x * x + up * up + z * z);
  const radius = <f64>load<f32>(collider, Collider.SIZE);
  if (length < 1e-9) setDistance(-radius, 1, 0, 0);
  else setDistance(length - radius, x / length, up / length, z / length);
}

/** A closed cylinder along its own y. */
function cylinderDistance(collider: usize, x: f64, y: f64, z: f64): void {
  const around = Math.sqrt(x * x + z * z);
  const q = around - <f64>load<f32>(collider, Collider.SIZE),
    h = Math.abs(y) - <f64>load<f32>(collider, Collider.SIZE + 4);
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
