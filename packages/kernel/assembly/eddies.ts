// Turbulence at many places at once: a sum of waves, each of which moves air across its own direction (see packages/core/src/air/eddies.ts).

import { interleaveHigh, interleaveLow, joinHigh, joinLow, multiplyAdd } from './lanes';
import * as Wave from '../layouts/air/wave';

/**
 * Adds the velocity of the air at points, which take 16 bytes each as everywhere, to `velocity`, in m/s. `speeds` has a f32 for each point by which the waves
 * are scaled there; where it is 0 for four that follow each other, the waves are not asked. Goes on to a whole number of fours: those beyond `count` must have
 * speed 0, and room.
 */
export function addEddies(
  points: usize,
  speeds: usize,
  velocity: usize,
  count: i32,
  waves: usize,
  waveCount: i32,
): void {
  const lastWave = waves + <usize>waveCount * Wave.BYTES;
  const end = speeds + (<usize>count << 2);
  for (let s = speeds, at: usize = 0; s < end; s += 16, at += 64) {
    const speed = v128.load(s);
    if (!v128.any_true(f32x4.ne(speed, f32x4.splat(0)))) continue;
    const p0 = v128.load(points + at),
      p1 = v128.load(points + at, 16),
      p2 = v128.load(points + at, 32),
      p3 = v128.load(points + at, 48);
    const low01 = interleaveLow(p0, p1),
      low23 = interleaveLow(p2, p3);
    const x = joinLow(low01, low23),
      y = joinHigh(low01, low23),
      z = joinLow(interleaveHigh(p0, p1), interleaveHigh(p2, p3));
    let vx = f32x4.splat(0),
      vy = f32x4.splat(0),
      vz = f32x4.splat(0);
    for (let w = waves; w < lastWave; w += Wave.BYTES) {
      let turns = multiplyAdd(z, v128.load32_splat(w, Wave.TURNS_Z), v128.load32_splat(w, Wave.TURNS_NOW));
      turns = multiplyAdd(y, v128.load32_splat(w, Wave.TURNS_Y), turns);
      turns = multiplyAdd(x, v128.load32_splat(w, Wave.TURNS_X), turns);
      const height = sineOfTurns(turns);
      vx = multiplyAdd(height, v128.load32_splat(w, Wave.VELOCITY_X), vx);
      vy = multiplyAdd(height, v128.load32_splat(w, Wave.VELOCITY_Y), vy);
      vz = multiplyAdd(height, v128.load32_splat(w, Wave.VELOCITY_Z), vz);
    }
    vx = f32x4.mul(vx, speed);
    vy = f32x4.mul(vy, speed);
    vz = f32x4.mul(vz, speed);
    const lowXY = interleaveLow(vx, vy),
      highXY = interleaveHigh(vx, vy);
    const lowZ = interleaveLow(vz, f32x4.splat(0)),
      highZ = interleaveHigh(vz, f32x4.splat(0));
    add(velocity + at, joinLow(lowXY, lowZ));
    add(velocity + at + 16, joinHigh(lowXY, lowZ));
    add(velocity + at + 32, joinLow(highXY, highZ));
    add(velocity + at + 48, joinHigh(highXY, highZ));
  }
}

// @ts-ignore: decorator
@inline
function add(at: usize, more: v128): void {
  v128.store(at, f32x4.add(v128.load(at), more));
}

/** Sine of so many whole turns, within 1e-6: a polynomial over the first quarter, fitted there, to which the others are folded. */
// @ts-ignore: decorator
@inline
function sineOfTurns(turns: v128): v128 {
  const part = f32x4.sub(turns, f32x4.nearest(turns));
  const quarter = f32x4.splat(0.25);
  const folded = f32x4.sub(quarter, f32x4.abs(f32x4.sub(f32x4.abs(part), quarter)));
  const square = f32x4.mul(folded, folded);
  let sine = multiplyAdd(square, f32x4.splat(-71.08735817), f32x4.splat(81.35167773));
  sine = multiplyAdd(square, sine, f32x4.splat(-41.337517626));
  sine = multiplyAdd(square, sine, f32x4.splat(6.283167563));
  return v128.or(f32x4.mul(folded, sine), v128.and(part, f32x4.splat(-0.0)));
}
