import { endOf, firstOf, inColours } from './threads/ranges';
import { pass, passed } from './threads/pool';
import * as Hinge from '../layouts/constraints/foldedHinge';
import * as Point from '../layouts/point';

// Bending about an inner edge that is folded at rest, by its angle (gradients after Bridson et al. 2003,
// "Simulation of Clothing with Folds and Wrinkles"). Used where the rest shape is not flat; scalar, in double.

// @ts-ignore: decorator
@inline
function place(points: usize, displacement: usize, at: usize, axis: usize): f64 {
  return <f64>load<f32>(points + at + axis) + <f64>load<f32>(displacement + at + axis);
}

// @ts-ignore: decorator
@inline
function push(displacement: usize, at: usize, scale: f64, x: f64, y: f64, z: f64): void {
  const to = displacement + at;
  store<f32>(to, <f32>(<f64>load<f32>(to, 0) + scale * x), 0);
  store<f32>(to, <f32>(<f64>load<f32>(to, 4) + scale * y), 4);
  store<f32>(to, <f32>(<f64>load<f32>(to, 8) + scale * z), 8);
}

let angle: f64 = 0;
let weight: f64 = 0;
// Gradients: on the edge's ends, and the scales of both faces' normals m and n on the opposite points.
let g0x: f64 = 0;
let g0y: f64 = 0;
let g0z: f64 = 0;
let g1x: f64 = 0;
let g1y: f64 = 0;
let g1z: f64 = 0;
let g2x: f64 = 0;
let g2y: f64 = 0;
let g2z: f64 = 0;
let g3x: f64 = 0;
let g3y: f64 = 0;
let g3z: f64 = 0;

/** Measures a hinge: its angle, the gradients of it, and the sum of inverse masses times their squares; false where a face has no area. */
function measureHinge(points: usize, displacement: usize, g: usize): bool {
  const i0 = <usize>load<u32>(g, Hinge.POINT_0),
    i1 = <usize>load<u32>(g, Hinge.POINT_1),
    i2 = <usize>load<u32>(g, Hinge.POINT_2),
    i3 = <usize>load<u32>(g, Hinge.POINT_3);
  const x0 = place(points, displacement, i0, 0),
    y0 = place(points, displacement, i0, 4),
    z0 = place(points, displacement, i0, 8);
  const ex = place(points, displacement, i1, 0) - x0,
    ey = place(points, displacement, i1, 4) - y0,
    ez = place(points, displacement, i1, 8) - z0;
  const ax = place(points, displacement, i2, 0) - x0,
    ay = place(points, displacement, i2, 4) - y0,
    az = place(points, displacement, i2, 8) - z0;
  const bx = place(points, displacement, i3, 0) - x0,
    by = place(points, displacement, i3, 4) - y0,
    bz = place(points, displacement, i3, 8) - z0;
  // Normals of both faces, pointing to the same side where the hinge is flat.
  const mx = ey * az - ez * ay,
    my = ez * ax - ex * az,
    mz = ex * ay - ey * ax;
  const nx = by * ez - bz * ey,
    ny = bz * ex - bx * ez,
    nz = bx * ey - by * ex;
  const edge = Math.sqrt(ex * ex + ey * ey + ez * ez);
  const mm = mx * mx + my * my + mz * mz,
    nn = nx * nx + ny * ny + nz * nz;
  if (edge < 1e-12 || mm < 1e-24 || nn < 1e-24) return false;
  const sine =
    ((my * nz - mz * ny) * ex + (mz * nx - mx * nz) * ey + (mx * ny - my * nx) * ez) / edge;
  angle = Math.atan2(sine, mx * nx + my * ny + mz * nz);
  const ua = -edge / mm,
    ub = -edge / nn;
  const alongA = (ax * ex + ay * ey + az * ez) / (edge * edge),
    alongB = (bx * ex + by * ey + bz * ez) / (edge * edge);
  // The edge's ends take what is left so that the four sum to zero and carry no torque.
  const a0 = -ua * (1 - alongA),
    b0 = -ub * (1 - alongB);
  const a1 = -ua * alongA,
    b1 = -ub * alongB;
  g0x = a0 * mx + b0 * nx;
  g0y = a0 * my + b0 * ny;
  g0z = a0 * mz + b0 * nz;
  g1x = a1 * mx + b1 * nx;
  g1y = a1 * my + b1 * ny;
  g1z = a1 * mz + b1 * nz;
  g2x = ua * mx;
  g2y = ua * my;
  g2z = ua * mz;
  g3x = ub * nx;
  g3y = ub * ny;
  g3z = ub * nz;
  weight =
    <f64>load<f32>(points + i0, Point.INVERSE_MASS) * (g0x * g0x + g0y * g0y + g0z * g0z) +
    <f64>load<f32>(points + i1, Point.INVERSE_MASS) * (g1x * g1x + g1y * g1y + g1z * g1z) +
    <f64>load<f32>(points + i2, Point.INVERSE_MASS) * ua * ua * mm +
    <f64>load<f32>(points + i3, Point.INVERSE_MASS) * ub * ub * nn;
  return true;
}

/** Adds a multiple of the gradients, by their inverse masses, to values of 16 bytes a point. */
function pushAll(points: usize, values: usize, g: usize, step: f64): void {
  const i0 = <usize>load<u32>(g, Hinge.POINT_0),
    i1 = <usize>load<u32>(g, Hinge.POINT_1),
    i2 = <usize>load<u32>(g, Hinge.POINT_2),
    i3 = <usize>load<u32>(g, Hinge.POINT_3);
  push(values, i0, step * <f64>load<f32>(points + i0, Point.INVERSE_MASS), g0x, g0y, g0z);
  push(values, i1, step * <f64>load<f32>(points + i1, Point.INVERSE_MASS), g1x, g1y, g1z);
  push(values, i2, step * <f64>load<f32>(points + i2, Point.INVERSE_MASS), g2x, g2y, g2z);
  push(values, i3, step * <f64>load<f32>(points + i3, Point.INVERSE_MASS), g3x, g3y, g3z);
}

/** Hinges that a thread takes at a time. */
const CHUNK: i32 = 64;

/** One sweep over the hinges, colour by colour: `colours` has the u32 number of the first hinge of each, with the end appended. */
export function solveBendAngle(
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
    if (!measureHinge(points, displacement, g)) continue;
    let error = angle - <f64>load<f32>(g, Hinge.REST_ANGLE);
    if (error > Math.PI) error -= 2 * Math.PI;
    else if (error < -Math.PI) error += 2 * Math.PI;
    pushAll(points, displacement, g, -error / (weight + <f64>load<f32>(g, Hinge.COMPLIANCE) + 1e-30));
  }
}

/** Damps how fast the angles change, implicitly, so that any damping is stable; `share` of that of a whole interval. */
export function dampBendAngle(
  points: usize,
  displacement: usize,
  velocity: usize,
  hinges: usize,
  colours: usize,
  colourCount: i32,
  share: f32,
): void {
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, hinges);
  pass<usize>(3, velocity);
  pass<f32>(4, share);
  inColours(dampChunk.index, colours, colourCount, CHUNK);
}

function dampChunk(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    velocity = passed<usize>(3);
  const share = passed<f32>(4);
  const first = firstOf(chunk),
    end = endOf(chunk);
  let g = passed<usize>(2) + <usize>first * Hinge.BYTES;
  for (let n = first; n < end; n++, g += Hinge.BYTES) {
    const damping = <f64>load<f32>(g, Hinge.DAMPING);
    if (damping == 0 || !measureHinge(points, displacement, g)) continue;
    const rate =
      along(velocity, load<u32>(g, Hinge.POINT_0), g0x, g0y, g0z) +
      along(velocity, load<u32>(g, Hinge.POINT_1), g1x, g1y, g1z) +
      along(velocity, load<u32>(g, Hinge.POINT_2), g2x, g2y, g2z) +
      along(velocity, load<u32>(g, Hinge.POINT_3), g3x, g3y, g3z);
    pushAll(points, velocity, g, (-<f64>share * damping * rate) / (1 + damping * weight));
  }
}

// @ts-ignore: decorator
@inline
function along(values: usize, at: usize, x: f64, y: f64, z: f64): f64 {
  return (
    <f64>load<f32>(values + at) * x + <f64>load<f32>(values + at, 4) * y + <f64>load<f32>(values + at, 8) * z
  );
}
