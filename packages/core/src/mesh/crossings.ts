import type { Mesh } from './mesh';
import { overlappingBoxes } from './overlappingBoxes';

/** Tells of a side of a face that goes through another face: its two points, and that face. */
type Found = (a: number, b: number, face: number) => void;

/** Tells of all sides of faces that go through other faces. What touches in a point of both is not counted. */
export function crossings({ positions, triangles }: Pick<Mesh, 'positions' | 'triangles'>, found: Found): void {
  const boxes = new Float32Array(triangles.length * 2);
  for (let face = 0; face < triangles.length / 3; face++) {
    const [i, j, k] = [triangles[face * 3]! * 3, triangles[face * 3 + 1]! * 3, triangles[face * 3 + 2]! * 3];
    for (let axis = 0; axis < 3; axis++) {
      const [a, b, c] = [positions[i + axis]!, positions[j + axis]!, positions[k + axis]!];
      boxes[face * 6 + axis] = Math.min(a, b, c);
      boxes[face * 6 + 3 + axis] = Math.max(a, b, c);
    }
  }
  overlappingBoxes(boxes, (one, other) => crossingsOf(positions, triangles, one, other, found));
}

/** Tells of the sides of two faces that go through the other. */
export function crossingsOf(
  positions: Float32Array,
  triangles: Uint32Array,
  one: number,
  other: number,
  found: Found,
): void {
  through(positions, triangles, one, other, found);
  through(positions, triangles, other, one, found);
}

function through(positions: Float32Array, triangles: Uint32Array, from: number, face: number, found: Found): void {
  const [a, b, c] = [triangles[face * 3]!, triangles[face * 3 + 1]!, triangles[face * 3 + 2]!];
  const own = [triangles[from * 3]!, triangles[from * 3 + 1]!, triangles[from * 3 + 2]!] as const;
  // On which sides its points are is asked first: mostly all are on one.
  const sides = [
    volume(positions, a, b, c, own[0]),
    volume(positions, a, b, c, own[1]),
    volume(positions, a, b, c, own[2]),
  ] as const;
  for (let i = 0; i < 3; i++) {
    if (sides[i]! * sides[(i + 1) % 3]! >= 0) continue;
    const [p, q] = [own[i]!, own[(i + 1) % 3]!];
    if ([p, q].some((point) => same(positions, point, a) || same(positions, point, b) || same(positions, point, c)))
      continue;
    const first = volume(positions, p, q, a, b);
    if (first * volume(positions, p, q, b, c) > 0 && first * volume(positions, p, q, c, a) > 0) found(p, q, face);
  }
}

/** Six times the volume of a tetrahedron: on which side of a, b, c the point d is. */
function volume(positions: Float32Array, a: number, b: number, c: number, d: number): number {
  const [i, j, k, l] = [a * 3, b * 3, c * 3, d * 3];
  const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
  const [bx, by, bz] = [positions[j]! - x, positions[j + 1]! - y, positions[j + 2]! - z];
  const [cx, cy, cz] = [positions[k]! - x, positions[k + 1]! - y, positions[k + 2]! - z];
  return (
    (positions[l]! - x) * (by * cz - bz * cy) +
    (positions[l + 1]! - y) * (bz * cx - bx * cz) +
    (positions[l + 2]! - z) * (bx * cy - by * cx)
  );
}

function same(positions: Float32Array, p: number, q: number): boolean {
  if (p === q) return true;
  const [i, j] = [p * 3, q * 3];
  return (
    positions[i] === positions[j] && positions[i + 1] === positions[j + 1] && positions[i + 2] === positions[j + 2]
  );
}
