import type { Vector3 } from '../math/vector';

/** The middle of the area of a surface whose points are at `positions`, in their unit: where a thin sheet of it would balance, however finely it is meshed. */
export function areaMiddle(positions: ArrayLike<number>, triangles: ArrayLike<number>): Vector3 {
  const middle: [number, number, number] = [0, 0, 0];
  let area = 0;
  for (let at = 0; at < triangles.length; at += 3) {
    const [a, b, c] = [0, 1, 2].map((corner) => triangles[at + corner]! * 3) as [number, number, number];
    const from = (point: number, axis: number) => positions[point + axis]! - positions[a + axis]!;
    const [ux, uy, uz, vx, vy, vz] = [from(b, 0), from(b, 1), from(b, 2), from(c, 0), from(c, 1), from(c, 2)];
    const own = Math.sqrt((uy * vz - uz * vy) ** 2 + (uz * vx - ux * vz) ** 2 + (ux * vy - uy * vx) ** 2);
    area += own;
    for (let axis = 0; axis < 3; axis++) {
      middle[axis]! += (own / 3) * (positions[a + axis]! + positions[b + axis]! + positions[c + axis]!);
    }
  }
  if (area > 0) return [middle[0] / area, middle[1] / area, middle[2] / area];
  // Without area, the middle of the points.
  const count = Math.max(1, positions.length / 3);
  const sums: [number, number, number] = [0, 0, 0];
  for (let i = 0; i < positions.length; i++) sums[i % 3]! += positions[i]! / count;
  return sums;
}
