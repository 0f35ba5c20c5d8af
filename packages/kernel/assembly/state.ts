import { endOf, firstOf, inRange } from './threads/ranges';
import { pass, passed, tell, told } from './threads/pool';
import * as Point from '../layouts/point';

// The state of the points. Arrays of 16 bytes a point (x y z w):
//   points        position p; w is the inverse mass in 1/kg, 0 for a held point
//   displacement  d, the motion since the start of the substep; the current place is p + d; w = 0
//   residual      e, what rounding p to single precision left over, moved along when contact pushes a point out
//                 without giving it speed; w = 0
//   start         e as the substep found it; w = 0
//   velocity      v in m/s; w = 0
//   acceleration  gravity and air in m/s^2; w = 0
//
// Solving on d and carrying e keeps velocities exact: at 400 substeps a frame g h^2 is smaller than the
// rounding of a position at 1 m, and v taken from two absolute positions goes wrong (the swing period first).

/** Points that a thread takes at a time. */
const CHUNK: i32 = 1024;

/** Starts a substep of h seconds: v += a h, d = e + v h. Held points do not move. */
export function predict(
  points: usize,
  displacement: usize,
  residual: usize,
  start: usize,
  velocity: usize,
  acceleration: usize,
  count: i32,
  h: f32,
): void {
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, residual);
  pass<usize>(3, start);
  pass<usize>(4, velocity);
  pass<usize>(5, acceleration);
  pass<f32>(6, h);
  inRange(predictChunk.index, 0, count, CHUNK);
}

function predictChunk(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    residual = passed<usize>(2),
    start = passed<usize>(3),
    velocity = passed<usize>(4),
    acceleration = passed<usize>(5);
  const step = f32x4.splat(passed<f32>(6));
  const end = <usize>endOf(chunk) << 4;
  for (let at = <usize>firstOf(chunk) << 4; at < end; at += 16) {
    const e = v128.load(residual + at);
    v128.store(start + at, e);
    if (load<f32>(points + at, Point.INVERSE_MASS) == 0) {
      v128.store(displacement + at, e);
      v128.store(velocity + at, f32x4.splat(0));
      continue;
    }
    const v = f32x4.add(v128.load(velocity + at), f32x4.mul(v128.load(acceleration + at), step));
    v128.store(velocity + at, v);
    v128.store(displacement + at, f32x4.add(e, f32x4.mul(v, step)));
  }
}

/**
 * Ends a substep: v = (d - e) / h, p += d, and e keeps what rounding lost (Kahan's compensated sum). Where a point was
 * pushed out, its true motion d - start differs from d - e; the smaller of the two is its velocity, or points that are
 * pushed out against a load in every substep would keep a velocity that they do not move with.
 * Returns the square of a bound on the fastest point's speed, NaN when any velocity is not a number.
 */
export function finish(
  points: usize,
  displacement: usize,
  residual: usize,
  start: usize,
  velocity: usize,
  count: i32,
  h: f32,
): f32 {
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, residual);
  pass<usize>(3, start);
  pass<usize>(4, velocity);
  pass<f32>(5, h);
  return mostOf(inRange(finishChunk.index, 0, count, CHUNK));
}

function finishChunk(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    residual = passed<usize>(2),
    start = passed<usize>(3),
    velocity = passed<usize>(4);
  const rate = f32x4.splat(<f32>1 / passed<f32>(5));
  const end = <usize>endOf(chunk) << 4;
  let fastest = f32x4.splat(0);
  for (let at = <usize>firstOf(chunk) << 4; at < end; at += 16) {
    const d = v128.load(displacement + at);
    const p = v128.load(points + at);
    const given = f32x4.sub(d, v128.load(residual + at)),
      real = f32x4.sub(d, v128.load(start + at));
    const v = f32x4.mul(square(given) <= square(real) ? given : real, rate);
    const moved = f32x4.add(p, d);
    v128.store(velocity + at, v);
    v128.store(points + at, moved);
    v128.store(residual + at, f32x4.sub(d, f32x4.sub(moved, p)));
    fastest = f32x4.max(fastest, f32x4.mul(v, v));
  }
  tell(chunk, fastest);
}

/** The square of a bound on how far any point has moved in this substep so far, in m². */
export function farthest(displacement: usize, count: i32): f32 {
  pass<usize>(0, displacement);
  return mostOf(inRange(farthestChunk.index, 0, count, CHUNK));
}

function farthestChunk(chunk: i32): void {
  const displacement = passed<usize>(0);
  const end = displacement + (<usize>endOf(chunk) << 4);
  let most = f32x4.splat(0);
  for (let at = displacement + (<usize>firstOf(chunk) << 4); at < end; at += 16) {
    const d = v128.load(at);
    most = f32x4.max(most, f32x4.mul(d, d));
  }
  tell(chunk, most);
}

/** The sum of the largest of each coordinate that the chunks have told; NaN where one of them is. */
function mostOf(chunks: i32): f32 {
  let most = f32x4.splat(0);
  for (let chunk = 0; chunk < chunks; chunk++) most = f32x4.max(most, told(chunk));
  return f32x4.extract_lane(most, 0) + f32x4.extract_lane(most, 1) + f32x4.extract_lane(most, 2);
}

/** Ends a substep that is taken back: points and velocities stay as they were. */
export function stay(residual: usize, start: usize, count: i32): void {
  memory.copy(residual, start, <usize>count << 4);
}

// @ts-ignore: decorator
@inline
function square(v: v128): f32 {
  const s = f32x4.mul(v, v);
  return (
    f32x4.extract_lane(s, 0) + f32x4.extract_lane(s, 1) + f32x4.extract_lane(s, 2)
  );
}

/** Sets the acceleration of every free point to that of gravity, x y z in m/s^2. */
export function setGravity(points: usize, acceleration: usize, count: i32, x: f32, y: f32, z: f32): void {
  const gravity = f32x4(x, y, z, 0);
  const end = <usize>count << 4;
  for (let at: usize = 0; at < end; at += 16) {
    v128.store(acceleration + at, load<f32>(points + at, Point.INVERSE_MASS) == 0 ? f32x4.splat(0) : gravity);
  }
}
