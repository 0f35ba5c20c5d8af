import { distance, distanceTo, isFarFrom, normalX, normalY, normalZ } from './collider';

// Contact of cloth with one collider. Cloth is felt at its probes: every point, and the middle of every edge,
// so that an edge of a box does not stand between two points of the mesh.
// A probe takes 8 bytes: the byte offsets of its two points, which are the same for a point.

/** Copies to `out` the probes that are nearer than `reach` metres to the collider; returns their number. */
export function gatherContacts(
  points: usize,
  displacement: usize,
  probes: usize,
  count: i32,
  collider: usize,
  reach: f32,
  out: usize,
): i32 {
  let found = 0;
  for (let n = 0; n < count; n++) {
    const i = <usize>load<u32>(probes + (n << 3), 0),
      j = <usize>load<u32>(probes + (n << 3), 4);
    if (load<f32>(points + i, 12) == 0 && load<f32>(points + j, 12) == 0) continue;
    const x = middle(points, displacement, i, j, 0),
      y = middle(points, displacement, i, j, 4),
      z = middle(points, displacement, i, j, 8);
    if (isFarFrom(collider, x, y, z, <f64>reach)) continue;
    distanceTo(collider, x, y, z, x, y, z, <f64>reach);
    if (distance >= <f64>reach) continue;
    store<u32>(out + (found << 3), <u32>i, 0);
    store<u32>(out + (found << 3), <u32>j, 4);
    found++;
  }
  return found;
}

/**
 * Keeps the gathered probes at the collider's target distance, with Coulomb friction on the motion of this
 * substep. `push` in m is the farthest that cloth which is already too near moves out in one substep, so
 * that a bad start comes out at a bounded speed instead of exploding.
 * Returns how many probes were in contact.
 */
export function solveContacts(
  points: usize,
  displacement: usize,
  residual: usize,
  contacts: usize,
  count: i32,
  collider: usize,
  push: f32,
): i32 {
  const target = <f64>load<f32>(collider, 12);
  const staticFriction = <f64>load<f32>(collider, 4),
    movingFriction = <f64>load<f32>(collider, 8);
  let touching = 0;
  for (let n = 0; n < count; n++) {
    const i = <usize>load<u32>(contacts + (n << 3), 0),
      j = <usize>load<u32>(contacts + (n << 3), 4);
    const x = middle(points, displacement, i, j, 0),
      y = middle(points, displacement, i, j, 4),
      z = middle(points, displacement, i, j, 8);
    // Motion since the start of the substep.
    const ux = x - middle(points, residual, i, j, 0),
      uy = y - middle(points, residual, i, j, 4),
      uz = z - middle(points, residual, i, j, 8);
    distanceTo(collider, x, y, z, x - ux, y - uy, z - uz, target);
    const depth = target - distance;
    if (depth <= 0) continue;
    const nx = normalX,
      ny = normalY,
      nz = normalZ;
    const along = ux * nx + uy * ny + uz * nz;
    // What came nearer in this substep is undone, and its impulse is what friction works with. What was too near
    // before is moved out without giving it speed: both ends of the substep's motion are shifted.
    const stop = Math.min(depth, Math.max(-along, 0));
    const shift = Math.min(depth - stop, <f64>push);
    touching++;
    let cx = stop * nx,
      cy = stop * ny,
      cz = stop * nz;
    const tx = ux - along * nx,
      ty = uy - along * ny,
      tz = uz - along * nz;
    const slide = Math.sqrt(tx * tx + ty * ty + tz * tz);
    if (slide > 0) {
      const held = slide <= staticFriction * stop;
      const share = held ? 1 : Math.min(1, (movingFriction * stop) / slide);
      cx -= share * tx;
      cy -= share * ty;
      cz -= share * tz;
    }
    const wi = <f64>load<f32>(points + i, 12);
    const wj = <f64>load<f32>(points + j, 12);
    // The middle moves by c when the ends move by 2 w c / (w_i + w_j).
    const si = i == j ? 1 : (2 * wi) / (wi + wj),
      sj = i == j ? 0 : (2 * wj) / (wi + wj);
    move(displacement + i, si, cx + shift * nx, cy + shift * ny, cz + shift * nz);
    if (shift > 0) move(residual + i, si, shift * nx, shift * ny, shift * nz);
    if (i == j) continue;
    move(displacement + j, sj, cx + shift * nx, cy + shift * ny, cz + shift * nz);
    if (shift > 0) move(residual + j, sj, shift * nx, shift * ny, shift * nz);
  }
  return touching;
}

// @ts-ignore: decorator
@inline
function middle(points: usize, offset: usize, i: usize, j: usize, axis: usize): f64 {
  return (
    0.5 *
    (<f64>load<f32>(points + i + axis) +
      <f64>load<f32>(offset + i + axis) +
      <f64>load<f32>(points + j + axis) +
      <f64>load<f32>(offset + j + axis))
  );
}

// @ts-ignore: decorator
@inline
function move(to: usize, scale: f64, x: f64, y: f64, z: f64): void {
  store<f32>(to, <f32>(<f64>load<f32>(to, 0) + scale * x), 0);
  store<f32>(to, <f32>(<f64>load<f32>(to, 4) + scale * y), 4);
  store<f32>(to, <f32>(<f64>load<f32>(to, 8) + scale * z), 8);
}
