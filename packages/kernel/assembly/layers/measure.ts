import { interleaveHigh, interleaveLow, joinHigh, joinLow } from '../lanes';
import { displacement, points } from './data';
import * as Pair from '../../layouts/layers/featurePair';

// Where the four points of a pair are along its normal now, relative to the first: a lane a point.

// @ts-ignore: decorator
@inline
export function normalOf(pair: usize): v128 {
  return f32x4.replace_lane(v128.load(pair, Pair.NORMAL), 3, 0);
}

/** Sums the lanes x y z of three vectors into lanes 1 2 3; lane 0 is zero. */
// @ts-ignore: decorator
@inline
export function sumOfThree(m1: v128, m2: v128, m3: v128): v128 {
  const zero = f32x4.splat(0);
  const low = interleaveLow(zero, m1),
    lowOther = interleaveLow(m2, m3);
  const high = interleaveHigh(zero, m1),
    highOther = interleaveHigh(m2, m3);
  return f32x4.add(
    f32x4.add(joinLow(low, lowOther), joinHigh(low, lowOther)),
    joinLow(high, highOther),
  );
}

// @ts-ignore: decorator
@inline
export function projections(pair: usize, normal: v128): v128 {
  const o0 = <usize>load<u32>(pair, Pair.POINT_0),
    o1 = <usize>load<u32>(pair, Pair.POINT_1),
    o2 = <usize>load<u32>(pair, Pair.POINT_2),
    o3 = <usize>load<u32>(pair, Pair.POINT_3);
  const p0 = v128.load(points + o0),
    d0 = v128.load(displacement + o0);
  return sumOfThree(
    f32x4.mul(normal, relative(o1, p0, d0)),
    f32x4.mul(normal, relative(o2, p0, d0)),
    f32x4.mul(normal, relative(o3, p0, d0)),
  );
}

// @ts-ignore: decorator
@inline
function relative(o: usize, p0: v128, d0: v128): v128 {
  return f32x4.add(
    f32x4.sub(v128.load(points + o), p0),
    f32x4.sub(v128.load(displacement + o), d0),
  );
}

/** How far the features are apart along the normal; not positive means that they may have crossed. */
// @ts-ignore: decorator
@inline
export function separation(q: v128, kind: i32): f32 {
  // Least and most of vectors are one instruction each, of numbers a dozen.
  const q1 = v128.shuffle<f32>(q, q, 1, 1, 1, 1),
    far = f32x4.pmax(v128.shuffle<f32>(q, q, 2, 2, 2, 2), v128.shuffle<f32>(q, q, 3, 3, 3, 3));
  return f32x4.extract_lane(
    kind == Pair.KIND_POINT_TRIANGLE ? f32x4.neg(f32x4.pmax(q1, far)) : f32x4.sub(f32x4.pmin(f32x4.splat(0), q1), far),
    0,
  );
}

// @ts-ignore: decorator
@inline
export function sumOfLanes(v: v128): f32 {
  return (
    f32x4.extract_lane(v, 0) +
    f32x4.extract_lane(v, 1) +
    (f32x4.extract_lane(v, 2) + f32x4.extract_lane(v, 3))
  );
}
