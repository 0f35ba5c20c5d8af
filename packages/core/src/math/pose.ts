import { arcTangent } from './trigonometry';
import { apply, rotation, type Matrix3, type Vector3 } from './vector';

/** Where a thing is: the place of its origin in m, and its turn. */
export interface Pose {
  center: Vector3;
  rotation: Matrix3;
}

export const STILL: Pose = { center: [0, 0, 0], rotation: [1, 0, 0, 0, 1, 0, 0, 0, 1] };

/** The pose of a place in m and a turn in radians about x, then y, then z. */
export function poseOf(position: Vector3, angles: Vector3): Pose {
  return { center: position, rotation: rotation(angles) };
}

/** A place in the axes of a pose, in the world. */
export function applyPose({ center, rotation: r }: Pose, place: Vector3): Vector3 {
  const turned = apply(r, place);
  return [center[0] + turned[0], center[1] + turned[1], center[2] + turned[2]];
}

/** The pose of something that has the pose `inner` in the axes of `outer`. */
export function composePoses(outer: Pose, inner: Pose): Pose {
  return { center: applyPose(outer, inner.center), rotation: multiply(outer.rotation, inner.rotation) };
}

/** The pose that takes a pose back: composed with it, nothing moves. */
export function invertPose({ center, rotation: r }: Pose): Pose {
  const back: Matrix3 = [r[0], r[3], r[6], r[1], r[4], r[7], r[2], r[5], r[8]];
  const [x, y, z] = apply(back, center);
  return { center: [-x, -y, -z], rotation: back };
}

function multiply(a: Matrix3, b: Matrix3): Matrix3 {
  const x = apply(a, [b[0], b[1], b[2]]);
  const y = apply(a, [b[3], b[4], b[5]]);
  const z = apply(a, [b[6], b[7], b[8]]);
  return [...x, ...y, ...z];
}

/**
 * The angles in radians about x, then y, then z that give a turn: the inverse of `rotation`. Of the many that give the same
 * turn, those nearest to `near` are taken, so that a path does not jump.
 */
export function anglesOf(m: Matrix3, near: Vector3 = [0, 0, 0]): Vector3 {
  const across = Math.sqrt(m[0] * m[0] + m[1] * m[1]);
  const y = arcTangent(-m[2], across);
  // Looking straight along y, x and z turn about the same axis: all of it is given to x.
  if (across < 1e-7) return [nearest(arcTangent(-m[7], m[4]), near[0]), nearest(y, near[1]), 0];
  const [x, z] = [arcTangent(m[5], m[8]), arcTangent(m[1], m[0])];
  const choices = [
    [x, y, z],
    [x + Math.PI, Math.PI - y, z + Math.PI],
  ].map((angles) => angles.map((angle, i) => nearest(angle, near[i]!)) as [number, number, number]);
  const away = (angles: Vector3) => angles.reduce((sum, angle, i) => sum + (angle - near[i]!) ** 2, 0);
  return away(choices[1]!) < away(choices[0]!) - 1e-12 ? choices[1]! : choices[0]!;
}

function nearest(angle: number, near: number): number {
  const turn = 2 * Math.PI;
  return angle + turn * Math.round((near - angle) / turn);
}
