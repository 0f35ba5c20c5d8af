import { larger, smaller } from '../lanes';
import {
  closestEdges,
  closestPointTriangle,
  gap,
  normalX,
  normalY,
  normalZ,
  weight0,
  weight1,
  weight2,
  weight3,
} from './closest';
import { centre, plan, points, rest, tangled } from './data';
import { roomForPair } from './listing';
import { FLOOR } from './settled';
import * as Pair from '../../layouts/layers/featurePair';
import * as Point from '../../layouts/point';

/**
 * What features keep that have points in common which a seam draws together, in m: next to nothing, so that the points can meet. But they never pass
 * each other: what had slipped through would be caught there by what is around it, and cross once the points are one.
 */
export const JOINED: f32 = 2e-5;

/** In m: pairs are looked at before they are this near, however thin the cloth. */
const LEAST_MARGIN: f32 = 3 * FLOOR;

let horizon: f32 = 1;
let now: f32 = 0;
let extending: bool = false;

/** On this thread pairs are considered for a query that looks so many substeps ahead. */
export function considerAhead(steps: f32): void {
  horizon = steps;
  extending = false;
}

/** The same for an extension at a substep of the horizon: only pairs that the enlarged radii wake earlier are added. */
export function considerFrom(step: f32, steps: f32): void {
  horizon = steps;
  now = step;
  extending = true;
}

/** Closest places of a pair's features at the given 16-byte places. */
// @ts-ignore: decorator
@inline
function closest(kind: i32, at: usize, o0: usize, o1: usize, o2: usize, o3: usize): bool {
  return kind == Pair.KIND_POINT_TRIANGLE
    ? closestPointTriangle(at + o0, at + o1, at + o2, at + o3)
    : closestEdges(at + o0, at + o1, at + o2, at + o3);
}

/** In m: how near to each other features that keep a distance are before they are looked at. */
// @ts-ignore: decorator
@inline
export function marginOf(thickness: f32): f64 {
  return larger<f64>(0.075 * <f64>thickness, LEAST_MARGIN);
}

/** The same for boxes around them, and a little more. */
// @ts-ignore: decorator
@inline
export function boxMarginOf(thickness: f32): f32 {
  return larger<f32>(0.08 * thickness, LEAST_MARGIN);
}

/** How many substeps ahead pairs are considered on this thread. */
// @ts-ignore: decorator
@inline
export function stepsAhead(): f32 {
  return horizon;
}

// @ts-ignore: decorator
@inline
function planAlong(o: usize): f64 {
  return (
    normalX * <f64>load<f32>(plan + o) +
    normalY * <f64>load<f32>(plan + o, 4) +
    normalZ * <f64>load<f32>(plan + o, 8)
  );
}

// @ts-ignore: decorator
@inline
function isTangled(o: usize): bool {
  return load<u8>(tangled + (o >> 4)) != 0;
}

/** The substep at which the balls of a pair may come nearer than the margin, given what they are apart and how fast they close. */
// @ts-ignore: decorator
@inline
function wakeStep(apart: f64, closing: f64): f32 {
  if (apart <= 0) return 0;
  if (closing <= apart * 1e-4) return 1e4;
  return <f32>(Math.floor(apart / closing) + 1);
}

/**
 * Lists a pair whose boxes may meet (`considerTriangles`) when it can touch within the horizon. Features are 0 against 1 2 3, or 0 1 against 2 3. Separation
 * along the normal changes no faster than the points move, so a pair needs no look before its balls can meet along it.
 */
export function considerPair(
  kind: i32,
  o0: usize,
  o1: usize,
  o2: usize,
  o3: usize,
  thickness: f32,
  friction: f32,
): void {
  if (isTangled(o0) || isTangled(o1) || isTangled(o2) || isTangled(o3)) return;
  if (!closest(kind, centre, o0, o1, o2, o3)) return;
  const r0 = load<f32>(centre + o0, Point.TRUST),
    r1 = load<f32>(centre + o1, Point.TRUST),
    r2 = load<f32>(centre + o2, Point.TRUST),
    r3 = load<f32>(centre + o3, Point.TRUST);
  const margin = marginOf(thickness);
  const reach = kind == Pair.KIND_POINT_TRIANGLE ? r0 + larger<f32>(r1, larger<f32>(r2, r3)) : larger<f32>(r0, r1) + larger<f32>(r2, r3);
  const apart = gap - <f64>reach - margin;
  const u0 = planAlong(o0),
    u1 = planAlong(o1),
    u2 = planAlong(o2),
    u3 = planAlong(o3);
  const closing =
    kind == Pair.KIND_POINT_TRIANGLE
      ? larger<f64>(u1, larger<f64>(u2, u3)) - u0
      : larger<f64>(u2, u3) - smaller<f64>(u0, u1);
  const wake = wakeStep(apart, closing);
  if (wake > horizon) return;
  if (extending) {
    const p0 = load<f32>(plan + o0, Point.TRUST),
      p1 = load<f32>(plan + o1, Point.TRUST),
      p2 = load<f32>(plan + o2, Point.TRUST),
      p3 = load<f32>(plan + o3, Point.TRUST);
    const before = kind == Pair.KIND_POINT_TRIANGLE ? p0 + larger<f32>(p1, larger<f32>(p2, p3)) : larger<f32>(p0, p1) + larger<f32>(p2, p3);
    if (wakeStep(gap - <f64>before - margin, closing) <= now) return;
  }
  const pair = roomForPair();
  if (pair == 0) return;
  store<u32>(pair, <u32>o0, Pair.POINT_0);
  store<u32>(pair, <u32>o1, Pair.POINT_1);
  store<u32>(pair, <u32>o2, Pair.POINT_2);
  store<u32>(pair, <u32>o3, Pair.POINT_3);
  writeClosest(pair);
  store<f32>(pair, keptDistance(o0, o1, o2, o3, thickness), Pair.DISTANCE);
  store<i32>(pair, kind, Pair.KIND);
  store<i32>(pair, extending ? -1 : <i32>wake, Pair.STEP);
  store<f32>(pair, friction, Pair.FRICTION);
}

// @ts-ignore: decorator
@inline
function writeClosest(pair: usize): void {
  store<f32>(pair, <f32>normalX, Pair.NORMAL);
  store<f32>(pair, <f32>normalY, Pair.NORMAL + 4);
  store<f32>(pair, <f32>normalZ, Pair.NORMAL + 8);
  store<f32>(pair, <f32>weight0, Pair.WEIGHTS);
  store<f32>(pair, <f32>weight1, Pair.WEIGHTS + 4);
  store<f32>(pair, <f32>weight2, Pair.WEIGHTS + 8);
  store<f32>(pair, <f32>weight3, Pair.WEIGHTS + 12);
  store<f32>(pair, <f32>gap, Pair.GAP);
}

/** Measures a pair anew where its points were when the substep began; there they are apart, so this is always allowed. */
export function refreshPair(pair: usize, step: i32): void {
  const found = closest(
    load<i32>(pair, Pair.KIND),
    points,
    <usize>load<u32>(pair, Pair.POINT_0),
    <usize>load<u32>(pair, Pair.POINT_1),
    <usize>load<u32>(pair, Pair.POINT_2),
    <usize>load<u32>(pair, Pair.POINT_3),
  );
  if (found && gap > 0) writeClosest(pair);
  store<i32>(pair, step, Pair.STEP);
}

/** The thickness; for features that are nearer than twice that at rest, at most half of how near they are. */
function keptDistance(o0: usize, o1: usize, o2: usize, o3: usize, thickness: f32): f32 {
  if (load<f32>(rest + o0, Point.DENSE) == 0) return thickness;
  let square: f64 = 0;
  for (let axis: usize = 0; axis < 12; axis += 4) {
    const away =
      weight0 * <f64>load<f32>(rest + o0 + axis) +
      weight1 * <f64>load<f32>(rest + o1 + axis) +
      weight2 * <f64>load<f32>(rest + o2 + axis) +
      weight3 * <f64>load<f32>(rest + o3 + axis);
    square += away * away;
  }
  return smaller<f32>(thickness, <f32>(0.5 * Math.sqrt(square)));
}
