import { larger, smaller } from '../lanes';
import { displacement, pairs, points, residual, start, pairTotal, sortedPairs } from './data';
import { normalOf, projections, sumOfLanes } from './measure';
import { refreshPair } from './pairs';
import { awakePairs } from './query';
import { isAlone } from '../threads/pool';
import { isVoid, noteMoved, numberOf, siftedPair, siftPairs } from './sift';
import { beginSettled, marginAlong, notePair, noteSettled, SLACK } from './settled';
import * as Pair from '../../layouts/layers/featurePair';
import * as Point from '../../layouts/point';

/** A point is moved at most so many times as far as the two layers are: near a held point the lever of a free one has no end. */
const MOST_LEVER: f32 = 8;

/** Normals of layers that touch are measured anew at least this often, in substeps. */
const REFRESH: i32 = 4;

/**
 * One pass over the pairs that are awake: layers nearer than their thickness are kept apart, with Coulomb friction on the
 * motion of this substep. What came nearer in this substep is undone; what was too near before is moved out by at
 * most `push` m in the substep, whoever pushes, without giving it speed, or resting layers hop. Returns how many pairs touch.
 */
export function keepLayersApart(step: i32, push: f32): i32 {
  const awake = awakePairs(step);
  beginSettled(step);
  const touching = isAlone() ? keepFrom(0, awake, step, push) : keepSifted(awake, step, push);
  noteSettled(pairTotal());
  return touching;
}

/** All awake pairs from one number on. */
function keepFrom(first: i32, awake: i32, step: i32, push: f32): i32 {
  let touching = 0;
  for (let n = first; n < awake; n++) touching += keepPair(pairs + <usize>n * Pair.BYTES, step, push);
  for (let n = max(first, sortedPairs()), end = pairTotal(); n < end; n++) touching += keepPair(pairs + <usize>n * Pair.BYTES, step, push);
  return touching;
}

/** The same, of the pairs that may be of interest. */
function keepSifted(awake: i32, step: i32, push: f32): i32 {
  let touching = 0;
  for (let n = 0, count = siftPairs(awake, true); n < count; n++) {
    const pair = siftedPair(n);
    touching += keepPair(pair, step, push);
    if (isVoid) return touching + keepFrom(numberOf(pair) + 1, awake, step, push);
  }
  return touching;
}

/** Keeps a pair apart; returns 1 when it touches, else 0. */
function keepPair(pair: usize, step: i32, push: f32): i32 {
  let normal = normalOf(pair);
  let weights = v128.load(pair, Pair.WEIGHTS);
  let q = projections(pair, normal);
  let apart = sumOfLanes(f32x4.mul(weights, q));
  const kept = load<f32>(pair, Pair.DISTANCE);
  if (apart < kept) {
    const age = load<i32>(pair, Pair.STEP);
    if (age < 0 || step - age >= REFRESH) {
      refreshPair(pair, step);
      normal = normalOf(pair);
      weights = v128.load(pair, Pair.WEIGHTS);
      q = projections(pair, normal);
      apart = sumOfLanes(f32x4.mul(weights, q));
    }
  }
  // Whatever is nearly too near is noted for when crossings are ruled out.
  if (marginAlong(pair, q) < 2 * SLACK) notePair(pair);
  if (apart >= kept) return 0;
  moveApart(pair, normal, weights, kept - apart, push);
  return 1;
}

// @ts-ignore: decorator
@inline
function largestLane(v: v128): f32 {
  return larger<f32>(
    larger<f32>(f32x4.extract_lane(v, 0), f32x4.extract_lane(v, 1)),
    larger<f32>(f32x4.extract_lane(v, 2), f32x4.extract_lane(v, 3)),
  );
}

function moveApart(pair: usize, normal: v128, weights: v128, depth: f32, push: f32): void {
  const o0 = <usize>load<u32>(pair, Pair.POINT_0),
    o1 = <usize>load<u32>(pair, Pair.POINT_1),
    o2 = <usize>load<u32>(pair, Pair.POINT_2),
    o3 = <usize>load<u32>(pair, Pair.POINT_3);
  const masses = f32x4(
    load<f32>(points + o0, Point.INVERSE_MASS),
    load<f32>(points + o1, Point.INVERSE_MASS),
    load<f32>(points + o2, Point.INVERSE_MASS),
    load<f32>(points + o3, Point.INVERSE_MASS),
  );
  const shares = f32x4.mul(weights, masses);
  const total = larger<f32>(
    sumOfLanes(f32x4.mul(weights, shares)),
    largestLane(f32x4.abs(shares)) / MOST_LEVER,
  );
  if (!(total > 0)) return;
  const d0 = v128.load(displacement + o0),
    d1 = v128.load(displacement + o1),
    d2 = v128.load(displacement + o2),
    d3 = v128.load(displacement + o3);
  const e0 = v128.load(residual + o0),
    e1 = v128.load(residual + o1),
    e2 = v128.load(residual + o2),
    e3 = v128.load(residual + o3);
  const w0 = v128.load32_splat(pair, Pair.WEIGHTS),
    w1 = v128.load32_splat(pair, Pair.WEIGHTS + 4),
    w2 = v128.load32_splat(pair, Pair.WEIGHTS + 8),
    w3 = v128.load32_splat(pair, Pair.WEIGHTS + 12);
  // Motion of the first feature relative to the second in this substep.
  const motion = f32x4.add(
    f32x4.add(f32x4.mul(w0, f32x4.sub(d0, e0)), f32x4.mul(w1, f32x4.sub(d1, e1))),
    f32x4.add(f32x4.mul(w2, f32x4.sub(d2, e2)), f32x4.mul(w3, f32x4.sub(d3, e3))),
  );
  const along = sumOfLanes(f32x4.mul(motion, normal));
  const stop = smaller<f32>(depth, larger<f32>(-along, 0));
  let shift = depth - stop;
  if (shift > 0) {
    // Less what other pairs and colliders have moved the two apart by.
    const pushed = f32x4.add(
      f32x4.add(
        f32x4.mul(w0, f32x4.sub(e0, v128.load(start + o0))),
        f32x4.mul(w1, f32x4.sub(e1, v128.load(start + o1))),
      ),
      f32x4.add(
        f32x4.mul(w2, f32x4.sub(e2, v128.load(start + o2))),
        f32x4.mul(w3, f32x4.sub(e3, v128.load(start + o3))),
      ),
    );
    shift = smaller<f32>(shift, larger<f32>(0, push - sumOfLanes(f32x4.mul(pushed, normal))));
  }
  let move = f32x4.mul(normal, f32x4.splat(stop));
  const slide = f32x4.replace_lane(
    f32x4.sub(motion, f32x4.mul(normal, f32x4.splat(along))),
    3,
    0,
  );
  const speed = Mathf.sqrt(sumOfLanes(f32x4.mul(slide, slide)));
  if (speed > 0) {
    const held = smaller<f32>(1, (load<f32>(pair, Pair.FRICTION) * stop) / speed);
    move = f32x4.sub(move, f32x4.mul(slide, f32x4.splat(held)));
  }
  const out = f32x4.mul(normal, f32x4.splat(shift));
  move = f32x4.add(move, out);
  const scale = f32x4.div(shares, f32x4.splat(total));
  const s0 = f32x4.splat(f32x4.extract_lane(scale, 0)),
    s1 = f32x4.splat(f32x4.extract_lane(scale, 1)),
    s2 = f32x4.splat(f32x4.extract_lane(scale, 2)),
    s3 = f32x4.splat(f32x4.extract_lane(scale, 3));
  v128.store(displacement + o0, f32x4.add(d0, f32x4.mul(s0, move)));
  v128.store(displacement + o1, f32x4.add(d1, f32x4.mul(s1, move)));
  v128.store(displacement + o2, f32x4.add(d2, f32x4.mul(s2, move)));
  v128.store(displacement + o3, f32x4.add(d3, f32x4.mul(s3, move)));
  if (shift > 0) {
    v128.store(residual + o0, f32x4.add(e0, f32x4.mul(s0, out)));
    v128.store(residual + o1, f32x4.add(e1, f32x4.mul(s1, out)));
    v128.store(residual + o2, f32x4.add(e2, f32x4.mul(s2, out)));
    v128.store(residual + o3, f32x4.add(e3, f32x4.mul(s3, out)));
  }
  noteMoved(o0);
  noteMoved(o1);
  noteMoved(o2);
  noteMoved(o3);
}
