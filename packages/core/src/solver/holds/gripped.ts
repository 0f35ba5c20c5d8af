import type { Grip } from './holds';

/** Strength in the middle of a soft grip: firm enough to lead cloth, soft enough not to tear it away. */
const GRIP_STRENGTH = 0.7;

/** The points of a cloth around a place in m, gripped the less the farther they are from it; none beyond the radius in m. */
export function gripped(cloth: number, positions: Float32Array, place: readonly number[], radius: number): Grip {
  const points: number[] = [];
  const strengths: number[] = [];
  for (let point = 0; point < positions.length / 3; point++) {
    const square = [0, 1, 2].reduce((sum, axis) => sum + (positions[point * 3 + axis]! - place[axis]!) ** 2, 0);
    if (square >= radius * radius) continue;
    const edge = 1 - Math.sqrt(square) / radius;
    points.push(point);
    strengths.push(GRIP_STRENGTH * edge * edge * (3 - 2 * edge));
  }
  const places = Float32Array.from(points.flatMap((point) => [...positions.subarray(point * 3, point * 3 + 3)]));
  return { cloth, points: Uint32Array.from(points), strengths: Float32Array.from(strengths), places };
}
