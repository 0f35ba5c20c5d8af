import { countIn, dataBlock, displacement, notes, pointCount, settled } from './data';
import { separation } from './measure';
import * as Block from '../../layouts/layers/layerBlock';
import * as Pair from '../../layouts/layers/featurePair';

// Which pairs can have come too near since all were looked at in this substep. A pair whose features were apart by more than its limit
// and some slack cannot fail before a point has moved by half of that slack; so only the few others, which are noted where layers are kept
// apart, have to be looked at when crossings are ruled out, and again after colliders have had their say.

/** Pairs are split when nearer than this share of their thickness. */
const SPLIT_SHARE: f32 = 0.05;
/** In m, well above the rounding of places. Absolute: limits relative to the gap shrink it to nothing, and then leak. */
export const FLOOR: f32 = 4e-6;
/** In m. Layers that touch lie at their thickness, far above the limit at which they are split. */
export const SLACK: f32 = 5e-4;

/** How near a pair may be, in m. One that began nearer than the share is held at how near it was, but never below twice the floor. */
// @ts-ignore: decorator
@inline
export function splitLimit(pair: usize): f32 {
  const share = f32x4.splat(SPLIT_SHARE * load<f32>(pair, Pair.DISTANCE));
  return f32x4.extract_lane(
    f32x4.pmax(f32x4.splat(2 * FLOOR), f32x4.pmin(share, v128.load32_splat(pair, Pair.GAP))),
    0,
  );
}

/** By how much, in m, a pair is separate beyond its limit, given where its points are along its normal. */
// @ts-ignore: decorator
@inline
export function marginAlong(pair: usize, q: v128): f32 {
  return separation(q, load<i32>(pair, Pair.KIND)) - splitLimit(pair);
}

/** From here on points are looked at for how far they have moved; the pairs are noted. */
export function beginSettled(step: i32): void {
  memory.copy(settled, displacement, <usize>pointCount << 4);
  store<i32>(dataBlock, step, Block.SETTLED_STEP);
  store<i32>(dataBlock, 0, Block.NOTED_PAIRS);
}

/** Nothing is known any more: pairs are listed anew, or points were moved as zones. */
export function forgetSettled(): void {
  store<i32>(dataBlock, -1, Block.SETTLED_STEP);
}

/** Of pairs in the list so many have been looked at. */
export function noteSettled(pairs: i32): void {
  store<i32>(dataBlock, pairs, Block.SETTLED_PAIRS);
}

export function settledPairs(): i32 {
  return load<i32>(dataBlock, Block.SETTLED_PAIRS);
}

// @ts-ignore: decorator
@inline
export function notePair(pair: usize): void {
  store<u32>(notes + (<usize>notedPairs() << 2), <u32>pair);
  countIn(Block.NOTED_PAIRS, 1);
}

// @ts-ignore: decorator
@inline
export function notedPair(n: i32): usize {
  return <usize>load<u32>(notes + (<usize>n << 2));
}

// @ts-ignore: decorator
@inline
export function notedPairs(): i32 {
  return load<i32>(dataBlock, Block.NOTED_PAIRS);
}

/** Whether only noted pairs, and those that were listed since, can fail in this substep. */
export function isSettled(step: i32): bool {
  if (step != load<i32>(dataBlock, Block.SETTLED_STEP)) return false;
  const end = <usize>pointCount << 4;
  let most = f32x4.splat(0);
  for (let at: usize = 0; at < end; at += 16) {
    const moved = f32x4.sub(v128.load(displacement + at), v128.load(settled + at));
    most = f32x4.pmax(most, f32x4.mul(moved, moved));
  }
  const square =
    f32x4.extract_lane(most, 0) + f32x4.extract_lane(most, 1) + f32x4.extract_lane(most, 2);
  return square < 0.24 * SLACK * SLACK;
}
