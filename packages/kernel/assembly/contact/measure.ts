import {
  carryX,
  carryY,
  carryZ,
  distanceTo,
  isMoving,
  normalX,
  normalY,
  normalZ,
  startOfX,
  startOfY,
  startOfZ,
  traceBack,
} from '../collider';
import * as Contact from '../../layouts/contact/contact';

// The distance of places to a collider.

// @ts-ignore: decorator
@inline
export function measure(collider: usize, place: v128, reach: f64): void {
  const x = <f64>f32x4.extract_lane(place, 0),
    y = <f64>f32x4.extract_lane(place, 1),
    z = <f64>f32x4.extract_lane(place, 2);
  distanceTo(collider, x, y, z, x, y, z, reach);
}

/**
 * The same for a place that was at `start` when the substep began: where both sides count, it belongs to the side on which it
 * was, seen from the collider.
 */
// @ts-ignore: decorator
@inline
export function measureFrom(collider: usize, place: v128, start: v128, reach: f64): void {
  let fromX = <f64>f32x4.extract_lane(start, 0),
    fromY = <f64>f32x4.extract_lane(start, 1),
    fromZ = <f64>f32x4.extract_lane(start, 2);
  if (isMoving(collider)) {
    traceBack(collider, fromX, fromY, fromZ);
    fromX = startOfX;
    fromY = startOfY;
    fromZ = startOfZ;
  }
  const x = <f64>f32x4.extract_lane(place, 0),
    y = <f64>f32x4.extract_lane(place, 1),
    z = <f64>f32x4.extract_lane(place, 2);
  distanceTo(collider, x, y, z, fromX, fromY, fromZ, reach);
}

/** Keeps in a contact how far the collider's surface has carried the place that was measured last. */
// @ts-ignore: decorator
@inline
export function keepCarry(contact: usize): void {
  store<f32>(contact, <f32>carryX, Contact.CARRIED);
  store<f32>(contact, <f32>carryY, Contact.CARRIED + 4);
  store<f32>(contact, <f32>carryZ, Contact.CARRIED + 8);
}

// @ts-ignore: decorator
@inline
export function alongNormal(v: v128): f64 {
  return (
    normalX * <f64>f32x4.extract_lane(v, 0) +
    normalY * <f64>f32x4.extract_lane(v, 1) +
    normalZ * <f64>f32x4.extract_lane(v, 2)
  );
}
