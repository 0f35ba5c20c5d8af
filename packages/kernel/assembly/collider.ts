import { meshDistance } from './meshDistance';

// Signed distance from a point to a collider, in double. A collider takes 128 bytes:
//   0 i32 kind | 4 f32 static friction | 8 f32 moving friction | 12 f32 target distance in m
//   16 f32 x 3 centre | 28 unused | 32 f32 x 9 rotation, columns are the collider's own axes
//   68 f32 x 3 half size of a box; radius and half height of a cylinder; radius of a ball
//   80 u32 mesh (see meshDistance.ts) | 96 f32 x 3 low and 108 f32 x 3 high corner of the box around it
// The results are left in these globals: distance in m (negative inside) and the outward unit normal.
export const COLLIDER_BYTES: i32 = 128;
export const PLANE: i32 = 0;
export const BALL: i32 = 1;
export const BOX: i32 = 2;
export const CYLINDER: i32 = 3;
export const MESH: i32 = 4;

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

/**
 * Distance from (x, y, z) to the collider. (fromX, fromY, fromZ) is where the point was when the substep
 * began: an open mesh keeps the point on the side it came from. Beyond `reach` metres a mesh may answer
 * only that it is farther than that.
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
  if (kind == MESH) {
    meshDistance(<usize>load<u32>(collider, 80), x, y, z, fromX, fromY, fromZ, reach);
    return;
  }
  const rx = x - <f64>load<f32>(collider, 16),
    ry = y - <f64>load<f32>(collider, 20),
    rz = z - <f64>load<f32>(collider, 24);
  if (kind == BALL) {
    const length = Math.sqrt(rx * rx + ry * ry + rz * rz);
    const radius = <f64>load<f32>(collider, 68);
    if (length < 1e-9) setDistance(-radius, 0, 1, 0);
    else setDistance(length - radius, rx / length, ry / length, rz / length);
    return;
  }
  const r00 = <f64>load<f32>(collider, 32),
    r10 = <f64>load<f32>(collider, 36),
    r20 = <f64>load<f32>(collider, 40),
    r01 = <f64>load<f32>(collider, 44),
    r11 = <f64>load<f32>(collider, 48),
    r21 = <f64>load<f32>(collider, 52),
    r02 = <f64>load<f32>(collider, 56),
    r12 = <f64>load<f32>(collider, 60),
    r22 = <f64>load<f32>(collider, 64);
  const lx = r00 * rx + r10 * ry + r20 * rz,
    ly = r01 * rx + r11 * ry + r21 * rz,
    lz = r02 * rx + r12 * ry + r22 * rz;
  if (kind == PLANE) setDistance(ly, 0, 1, 0);
  else if (kind == BOX) boxDistance(collider, lx, ly, lz);
  else cylinderDistance(collider, lx, ly, lz);
  const nx = normalX,
    ny = normalY,
    nz = normalZ;
  normalX = r00 * nx + r01 * ny + r02 * nz;
  normalY = r10 * nx + r11 * ny + r12 * nz;
  normalZ = r20 * nx + r21 * ny + r22 * nz;
}

/** Whether a place is farther than `reach` from the box around the collider: a quick no before the exact distance. */
// @ts-ignore: decorator
@inline
export function isFarFrom(collider: usize, x: f64, y: f64, z: f64, reach: f64): bool {
  return (
    x + reach < <f64>load<f32>(collider, 96) ||
    y + reach < <f64>load<f32>(collider, 100) ||
    z + reach < <f64>load<f32>(collider, 104) ||
    x - reach > <f64>load<f32>(collider, 108) ||
    y - reach > <f64>load<f32>(collider, 112) ||
    z - reach > <f64>load<f32>(collider, 116)
  );
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
  const ox = Math.max(qx, 0),
    oy = Math.max(qy, 0),
    oz = Math.max(qz, 0);
  const length = Math.sqrt(ox * ox + oy * oy + oz * oz);
  if (length > 0) setDistance(length, (sx * ox) / length, (sy * oy) / length, (sz * oz) / length);
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
  const o = Math.max(q, 0),
    u = Math.max(h, 0);
  const length = Math.sqrt(o * o + u * u);
  if (length > 0) setDistance(length, (ux * o) / length, (sy * u) / length, (uz * o) / length);
}
