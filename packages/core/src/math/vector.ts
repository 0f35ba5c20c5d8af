import { cosine, sine } from './trigonometry';

/** Three numbers: a place in metres, a direction, or angles in radians. */
export type Vector3 = readonly [number, number, number];

/** Nine numbers, column by column: the images of the x, y and z axes. */
export type Matrix3 = readonly [
  number, number, number,
  number, number, number,
  number, number, number,
]; // prettier-ignore

export function length(v: Vector3): number {
  return Math.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]);
}

/** The unit vector along v, or undefined when v is too short to have a direction. */
export function direction(v: Vector3): Vector3 | undefined {
  const size = length(v);
  return size > 1e-12 ? [v[0] / size, v[1] / size, v[2] / size] : undefined;
}

export function minus(a: Vector3, b: Vector3): Vector3 {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}

/** How far two places are from each other. */
export function apart(a: Vector3, b: Vector3): number {
  return length(minus(a, b));
}

export function cross(a: Vector3, b: Vector3): Vector3 {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

export function dot(a: Vector3, b: Vector3): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

/** Rotation by angles in radians about x, then y, then z (each about the fixed axes). */
export function rotation(angles: Vector3): Matrix3 {
  const [cx, cy, cz] = [cosine(angles[0]), cosine(angles[1]), cosine(angles[2])];
  const [sx, sy, sz] = [sine(angles[0]), sine(angles[1]), sine(angles[2])];
  return [
    cy * cz,
    cy * sz,
    -sy,
    sx * sy * cz - cx * sz,
    sx * sy * sz + cx * cz,
    sx * cy,
    cx * sy * cz + sx * sz,
    cx * sy * sz - sx * cz,
    cx * cy,
  ];
}

export function apply(m: Matrix3, v: Vector3): Vector3 {
  return [
    m[0] * v[0] + m[3] * v[1] + m[6] * v[2],
    m[1] * v[0] + m[4] * v[1] + m[7] * v[2],
    m[2] * v[0] + m[5] * v[1] + m[8] * v[2],
  ];
}
