import { larger, smaller } from '../lanes';
import {
  countIn,
  displacement,
  flags,
  pairs,
  pairTotal,
  pointCount,
  points,
  residual,
  sortedPairs,
  start,
  zones,
  zoneSums,
} from './data';
import { normalOf, projections, separation } from './measure';
import { refreshPair } from './pairs';
import { awakePairs } from './query';
import { isAlone } from '../threads/pool';
import { isVoid, noteMoved, numberOf, siftedPair, siftPairs } from './sift';
import {
  beginSettled,
  FLOOR,
  forgetSettled,
  isSettled,
  marginAlong,
  notedPair,
  notedPairs,
  notePair,
  noteSettled,
  settledPairs,
  SLACK,
  splitLimit,
} from './settled';
import * as Block from '../../layouts/layers/layerBlock';
import * as Pair from '../../layouts/layers/featurePair';
import * as Point from '../../layouts/point';
import * as ZoneSum from '../../layouts/layers/zoneSum';

// The promise: no pair of features crosses. Along a fixed direction the separation of two features that move in
// straight lines is concave in time, so when it is positive at both ends of a substep they never met within it. At the
// start of the substep it is positive, since that was the end of the last one; here it is made so at the end.
//
// First, pairs that fail are split along their normals, in rounds over what moved. What still fails is joined into
// zones that move as one, by their mean motion (after the rigid impact zones of Provot 1997 and Bridson et al.
// 2002): inside a zone nothing changes. Zones grow until nothing fails; late ones stay where the substep began.
//
// A zone has two means, each over the masses of its points: of how far they have really moved, which is what keeps it rigid, and of the
// part of that which gives them speed. The two differ where points were pushed out. Held points lead: their zone moves as they do, on
// the mean where they differ, and they themselves stay where they are held.

const SPLIT_ROUNDS = 12;
const ZONE_ROUNDS = 12;
/** Whether a pair failed that no point could be moved for: it is held on both sides. Nothing of it has moved then, so no round looks at it again. */
let stuck: bool = false;

/**
 * Makes all awake pairs separate at the end of the substep. Returns whether any point was moved.
 */
export function forbidCrossing(step: i32): bool {
  const awake = awakePairs(step);
  memory.fill(flags, 0, <usize>pointCount);
  let moved = false;
  stuck = false;
  for (let round: u8 = 1; round <= <u8>SPLIT_ROUNDS; round++) {
    let failed: i32;
    if (isSettled(step)) {
      failed = splitSettled(step, round) + splitRange(settledPairs(), pairTotal(), step, round, true);
    } else {
      // In the first round all are looked at, and those that are nearly too near are noted.
      const note = round == 1;
      if (note) beginSettled(step);
      failed = note && !isAlone() ? splitSifted(awake, step) : splitFrom(0, awake, step, round, note);
    }
    noteSettled(pairTotal());
    if (failed == 0) {
      if (!stuck) return moved;
      break;
    }
    countIn(Block.SPLITS, failed);
    moved = true;
  }
  joinZones(awake, step);
  forgetSettled();
  return true;
}

// @ts-ignore: decorator
@inline
function flagOf(pair: usize, n: usize): usize {
  return flags + (<usize>load<u32>(pair + (n << 2)) >> 4);
}

/** Whether a point of the pair was moved in this round or the one before. */
// @ts-ignore: decorator
@inline
function wasMoved(pair: usize, round: u8): bool {
  const since = round - 1;
  return (
    load<u8>(flagOf(pair, 0)) >= since ||
    load<u8>(flagOf(pair, 1)) >= since ||
    load<u8>(flagOf(pair, 2)) >= since ||
    load<u8>(flagOf(pair, 3)) >= since
  );
}

/** Splits what fails of the awake pairs from one number on; with `note`, notes which of them are nearly too near. Returns how many failed. */
function splitFrom(first: i32, awake: i32, step: i32, round: u8, note: bool): i32 {
  return splitRange(first, awake, step, round, note) + splitRange(max(first, sortedPairs()), pairTotal(), step, round, note);
}

function splitRange(from: i32, to: i32, step: i32, round: u8, note: bool): i32 {
  let failed = 0;
  for (let n = from; n < to; n++) failed += splitPair(pairs + <usize>n * Pair.BYTES, step, round, note);
  return failed;
}

/** The first round, of the pairs that may be of interest. */
function splitSifted(awake: i32, step: i32): i32 {
  let failed = 0;
  for (let n = 0, count = siftPairs(awake, false); n < count; n++) {
    const pair = siftedPair(n);
    failed += splitPair(pair, step, 1, true);
    if (isVoid) return failed + splitFrom(numberOf(pair) + 1, awake, step, 1, true);
  }
  return failed;
}

/** Splits a pair where it fails; returns 1 then, else 0. */
function splitPair(pair: usize, step: i32, round: u8, note: bool): i32 {
  if (!note && round > 1 && !wasMoved(pair, round)) return 0;
  const margin = marginOf(pair);
  if (margin >= 2 * SLACK) return 0;
  const failed = margin < 0 && splitFailing(pair, step, round);
  if (note) notePair(pair);
  return failed ? 1 : 0;
}

/** The same of the pairs that were noted: no other can fail yet. */
function splitSettled(step: i32, round: u8): i32 {
  let failed = 0;
  for (let n = 0, count = notedPairs(); n < count; n++) {
    const pair = notedPair(n);
    if (round > 1 && !wasMoved(pair, round)) continue;
    if (marginOf(pair) < 0 && splitFailing(pair, step, round)) failed++;
  }
  return failed;
}

// @ts-ignore: decorator
@inline
function marginOf(pair: usize): f32 {
  return marginAlong(pair, projections(pair, normalOf(pair)));
}

/** Splits a pair, unless it only seemed to fail along a normal that was old. Returns whether it did. */
function splitFailing(pair: usize, step: i32, round: u8): bool {
  if (load<i32>(pair, Pair.STEP) != step) {
    // Turned to how the pair lay when the substep began.
    refreshPair(pair, step);
    if (marginOf(pair) >= 0) return false;
  }
  split(pair, projections(pair, normalOf(pair)), load<i32>(pair, Pair.KIND), splitLimit(pair), round);
  return true;
}

/** Moves all free points of a pair to their sides of a plane between its features, so that it is apart by twice the limit, or as far as held ones let it be. */
function split(pair: usize, q: v128, kind: i32, limit: f32, round: u8): void {
  const q1 = f32x4.extract_lane(q, 1),
    q2 = f32x4.extract_lane(q, 2),
    q3 = f32x4.extract_lane(q, 3);
  const isPoint = kind == Pair.KIND_POINT_TRIANGLE;
  const near: f32 = isPoint ? 0 : smaller<f32>(0, q1);
  const far: f32 = isPoint ? larger<f32>(q1, larger<f32>(q2, q3)) : larger<f32>(q2, q3);
  // The plane lies between what is held.
  let above: f32 = isHeld(pair, 0) ? 0 : f32.MAX_VALUE,
    below: f32 = -f32.MAX_VALUE;
  if (isHeld(pair, 1)) {
    if (isPoint) below = q1;
    else above = smaller<f32>(above, q1);
  }
  if (isHeld(pair, 2)) below = larger<f32>(below, q2);
  if (isHeld(pair, 3)) below = larger<f32>(below, q3);
  const margin = smaller<f32>(limit, 0.5 * above - 0.5 * below);
  if (margin < FLOOR) {
    stuck = true;
    return;
  }
  const plane = smaller<f32>(above - margin, larger<f32>(below + margin, 0.5 * (near + far)));
  pushTo(pair, 0, 0, plane + margin, true, round);
  if (isPoint) pushTo(pair, 1, q1, plane - margin, false, round);
  else pushTo(pair, 1, q1, plane + margin, true, round);
  pushTo(pair, 2, q2, plane - margin, false, round);
  pushTo(pair, 3, q3, plane - margin, false, round);
}

// @ts-ignore: decorator
@inline
function isHeld(pair: usize, n: usize): bool {
  return load<f32>(points + <usize>load<u32>(pair + (n << 2)), Point.INVERSE_MASS) == 0;
}

// @ts-ignore: decorator
@inline
function pushTo(pair: usize, n: usize, at: f32, wanted: f32, above: bool, round: u8): void {
  const missing = wanted - at;
  if (above ? missing <= 0 : missing >= 0) return;
  if (isHeld(pair, n)) return;
  const to = displacement + <usize>load<u32>(pair + (n << 2));
  v128.store(
    to,
    f32x4.add(v128.load(to), f32x4.mul(normalOf(pair), f32x4.splat(missing))),
  );
  store<u8>(flagOf(pair, n), round);
  noteMoved(<usize>load<u32>(pair + (n << 2)));
}

const IN_ZONE: u8 = 255;

// @ts-ignore: decorator
@inline
function zoneOf(at: usize): usize {
  let root = at;
  for (;;) {
    const up = <usize>load<u32>(zones + (root >> 2));
    if (up == root) break;
    root = up;
  }
  // Path compression.
  let walk = at;
  while (walk != root) {
    const slot = zones + (walk >> 2);
    walk = <usize>load<u32>(slot);
    store<u32>(slot, <u32>root);
  }
  return root;
}

/** The sums of a zone, by its first point. */
// @ts-ignore: decorator
@inline
function sumsOf(at: usize): usize {
  return zoneSums + (at << 1);
}

/** What a held point weighs in a zone, in kg: endlessly much beside cloth. */
const HELD_MASS: f32 = 1e12;

/** Puts a point into a zone of its own, moving as it would. */
function startZone(at: usize): void {
  const flag = flags + (at >> 4);
  if (load<u8>(flag) == IN_ZONE) return;
  store<u8>(flag, IN_ZONE);
  store<u32>(zones + (at >> 2), <u32>at);
  const inverse = load<f32>(points + at, Point.INVERSE_MASS);
  const mass: f32 = inverse > 0 ? <f32>1 / inverse : HELD_MASS;
  const d = v128.load(displacement + at),
    weight = f32x4.splat(mass);
  const real = f32x4.mul(f32x4.sub(d, v128.load(start + at)), weight);
  v128.store(sumsOf(at), f32x4.replace_lane(real, 3, mass), ZoneSum.REAL);
  v128.store(sumsOf(at), f32x4.mul(f32x4.sub(d, v128.load(residual + at)), weight), ZoneSum.GIVEN);
  countIn(Block.ZONE_POINTS, 1);
}

function joinPair(pair: usize): void {
  const first = <usize>load<u32>(pair, Pair.POINT_0);
  startZone(first);
  for (let n: usize = 4; n < 16; n += 4) {
    const at = <usize>load<u32>(pair + n);
    startZone(at);
    const a = zoneOf(first),
      b = zoneOf(at);
    if (a == b) continue;
    const to = sumsOf(a),
      from = sumsOf(b);
    v128.store(to, f32x4.add(v128.load(to, ZoneSum.REAL), v128.load(from, ZoneSum.REAL)), ZoneSum.REAL);
    v128.store(to, f32x4.add(v128.load(to, ZoneSum.GIVEN), v128.load(from, ZoneSum.GIVEN)), ZoneSum.GIVEN);
    store<u32>(zones + (b >> 2), <u32>a);
  }
}

function isOneZone(pair: usize): bool {
  for (let n: usize = 0; n < 4; n++) if (load<u8>(flagOf(pair, n)) != IN_ZONE) return false;
  const first = zoneOf(<usize>load<u32>(pair, Pair.POINT_0));
  return (
    zoneOf(<usize>load<u32>(pair, Pair.POINT_1)) == first &&
    zoneOf(<usize>load<u32>(pair, Pair.POINT_2)) == first &&
    zoneOf(<usize>load<u32>(pair, Pair.POINT_3)) == first
  );
}

function joinRange(from: i32, to: i32, step: i32, first: bool): i32 {
  let failed = 0;
  for (let n = from; n < to; n++) {
    const pair = pairs + <usize>n * Pair.BYTES;
    if (!first && !inAnyZone(pair)) continue;
    const kind = load<i32>(pair, Pair.KIND);
    if (separation(projections(pair, normalOf(pair)), kind) >= FLOOR) continue;
    if (isOneZone(pair)) continue;
    if (load<i32>(pair, Pair.STEP) != step) {
      refreshPair(pair, step);
      if (separation(projections(pair, normalOf(pair)), kind) >= FLOOR) continue;
    }
    joinPair(pair);
    failed++;
  }
  return failed;
}

// @ts-ignore: decorator
@inline
function inAnyZone(pair: usize): bool {
  return (
    load<u8>(flagOf(pair, 0)) == IN_ZONE ||
    load<u8>(flagOf(pair, 1)) == IN_ZONE ||
    load<u8>(flagOf(pair, 2)) == IN_ZONE ||
    load<u8>(flagOf(pair, 3)) == IN_ZONE
  );
}

/** Every free point in a zone moves as its zone; `still` keeps the zones without a held point where they began. */
function moveZones(still: bool): void {
  for (let i = 0; i < pointCount; i++) {
    if (load<u8>(flags + <usize>i) != IN_ZONE) continue;
    const at = <usize>i << 4;
    if (load<f32>(points + at, Point.INVERSE_MASS) == 0) continue;
    const sums = sumsOf(zoneOf(at));
    const mass = v128.load32_splat(sums, ZoneSum.MASS);
    const stays = still && load<f32>(sums, ZoneSum.MASS) < HELD_MASS;
    const real = stays ? f32x4.splat(0) : f32x4.div(v128.load(sums, ZoneSum.REAL), mass);
    const given = f32x4.div(v128.load(sums, ZoneSum.GIVEN), mass);
    const d = f32x4.replace_lane(f32x4.add(v128.load(start + at), real), 3, 0);
    v128.store(displacement + at, d);
    v128.store(residual + at, f32x4.replace_lane(f32x4.sub(d, given), 3, 0));
  }
}

function joinZones(awake: i32, step: i32): void {
  for (let round = 0; ; round++) {
    const failed =
      joinRange(0, awake, step, round == 0) +
      joinRange(sortedPairs(), pairTotal(), step, round == 0);
    if (failed == 0) return;
    moveZones(round >= ZONE_ROUNDS);
  }
}
