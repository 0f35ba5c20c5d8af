import { clothCount, meetings, sewn } from './data';
import * as Meeting from '../../layouts/layers/meeting';
import * as SewnPoint from '../../layouts/layers/sewnPoint';
import * as Triangle from '../../layouts/layers/layerTriangle';

// How two cloths meet: whether at all, and with which numbers. Set before their triangles are gone through.

let thickness: f32 = -1;
let friction: f32 = -1;
let own: bool = false;

// @ts-ignore: decorator
@inline
function entryOf(a: i32, b: i32): usize {
  return meetings + (<usize>(a * clothCount + b) * Meeting.BYTES);
}

/** Begins with two cloths, or one and itself; false when they pass through each other. */
export function beginMeeting(a: i32, b: i32): bool {
  const entry = entryOf(a, b);
  thickness = load<f32>(entry, Meeting.DISTANCE);
  friction = load<f32>(entry, Meeting.FRICTION);
  own = a == b;
  return load<u32>(entry, Meeting.TOUCHES) != 0;
}

/** Whether it is one cloth and itself. */
// @ts-ignore: decorator
@inline
export function isOneCloth(): bool {
  return own;
}

/** Whether two triangles of the cloths touch: parts of a cloth may pass through it. */
// @ts-ignore: decorator
@inline
export function touch(s: usize, t: usize): bool {
  return !own || ((load<u32>(s, Triangle.FLAGS) | load<u32>(t, Triangle.FLAGS)) & Triangle.PASSES) == 0;
}

/** The distance in m that two triangles of the cloths keep. */
// @ts-ignore: decorator
@inline
export function distanceOf(s: usize, t: usize): f32 {
  return thickness < 0 ? load<f32>(s, Triangle.HALF_THICKNESS) + load<f32>(t, Triangle.HALF_THICKNESS) : thickness;
}

// @ts-ignore: decorator
@inline
export function frictionOf(s: usize, t: usize): f32 {
  return friction < 0 ? load<f32>(s, Triangle.GRIP) * load<f32>(t, Triangle.GRIP) : friction;
}

/** Whether two points are one: what has one of them in common is not kept apart. Those of a closed seam that are not merged are one too. */
// @ts-ignore: decorator
@inline
export function areOne(p: usize, q: usize): bool {
  if (p == q) return true;
  if (sewn == 0) return false;
  const first = load<u32>(sewn + (p >> 2));
  return first == load<u32>(sewn + (q >> 2)) && (first & SewnPoint.OPEN) == 0;
}

/** Whether a seam draws two points together that are not one yet. */
// @ts-ignore: decorator
@inline
export function areSewn(p: usize, q: usize): bool {
  return ((load<u32>(sewn + (p >> 2)) ^ load<u32>(sewn + (q >> 2))) & ~SewnPoint.OPEN) == 0;
}
