import { cosine, sine } from '../../math/trigonometry';
import type { Mesh } from '../mesh';

/** A place of a profile: distance from the axis and height, in metres. */
export type ProfilePoint = readonly [radius: number, height: number];

/**
 * Turns a profile about y into a closed surface. The profile runs upwards on the outside; where it begins or ends on the axis it
 * closes in one point, and `loop` joins its end to its beginning (a pipe).
 */
export function lathe(profile: readonly ProfilePoint[], segments: number, loop = false): Mesh {
  const positions: number[] = [];
  const triangles: number[] = [];
  const rows = profile.map(([radius, height]) => {
    const first = positions.length / 3;
    if (radius === 0) {
      positions.push(0, height, 0);
      return { first, count: 1 };
    }
    for (let s = 0; s < segments; s++) {
      const angle = (2 * Math.PI * s) / segments;
      positions.push(radius * cosine(angle), height, radius * sine(angle));
    }
    return { first, count: segments };
  });
  const pairs = loop ? profile.length : profile.length - 1;
  for (let row = 0; row < pairs; row++) {
    const [low, high] = [rows[row]!, rows[(row + 1) % rows.length]!];
    for (let s = 0; s < segments; s++) {
      const at = ({ first, count }: typeof low, turn: number) => first + (count === 1 ? 0 : turn % segments);
      const [a, b, c, d] = [at(low, s), at(low, s + 1), at(high, s), at(high, s + 1)];
      if (a !== b) triangles.push(a, d, b);
      if (c !== d) triangles.push(a, c, d);
    }
  }
  return { positions: new Float32Array(positions), triangles: new Uint32Array(triangles) };
}
