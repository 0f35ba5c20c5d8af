import { faceNormals } from '../mesh/faceNormals';
import type { Mesh } from '../mesh/mesh';
import { overlappingBoxes } from '../mesh/overlappingBoxes';

/** Neighbours that lie less the same way than this (cosine) are folded onto each other. */
const FOLDED = 0.3;

/**
 * Tells of all pairs of faces that may meet when points move, each once: `reach` says how far those of a face go, in m. Faces that share a point, which those
 * that are sewn together do, only where they are folded onto each other; `neighbours` says so.
 */
export function eachClosePair(
  { positions, triangles, sewn }: Pick<Mesh, 'positions' | 'triangles' | 'sewn'>,
  reach: (face: number) => number,
  found: (one: number, other: number, neighbours: boolean) => void,
): void {
  const faces = triangles.length / 3;
  const boxes = new Float32Array(faces * 6);
  for (let face = 0; face < faces; face++) {
    const [i, j, k] = [triangles[face * 3]! * 3, triangles[face * 3 + 1]! * 3, triangles[face * 3 + 2]! * 3];
    const far = reach(face);
    for (let axis = 0; axis < 3; axis++) {
      const [a, b, c] = [positions[i + axis]!, positions[j + axis]!, positions[k + axis]!];
      boxes[face * 6 + axis] = Math.min(a, b, c) - far;
      boxes[face * 6 + 3 + axis] = Math.max(a, b, c) + far;
    }
  }
  eachPairThatMayMeet({ positions, triangles, sewn }, boxes, found);
}

/** The same for faces with the boxes in which they may come to lie. */
export function eachPairThatMayMeet(
  { positions, triangles, sewn }: Pick<Mesh, 'positions' | 'triangles' | 'sewn'>,
  boxes: Float32Array,
  found: (one: number, other: number, neighbours: boolean) => void,
): void {
  const normals = faceNormals({ positions, triangles });
  const corners = sewn ? triangles.map((point) => sewn[point]!) : triangles;
  overlappingBoxes(boxes, (one, other) => {
    const neighbours = shareCorner(corners, one * 3, other * 3);
    if (!neighbours || leanOf(normals, one, other) < FOLDED) found(one, other, neighbours);
  });
}

/** Whether two faces, by where their corners begin, have one in common. */
function shareCorner(corners: Uint32Array, one: number, other: number): boolean {
  for (let i = 0; i < 3; i++) if (hasCorner(corners, other, corners[one + i]!)) return true;
  return false;
}

/** Whether a face, by where its corners begin, has a point. */
export const hasCorner = (corners: Uint32Array, face: number, point: number): boolean =>
  point === corners[face] || point === corners[face + 1] || point === corners[face + 2];

/** How much two faces lie the same way: 1 all, -1 one upon the other. */
function leanOf(normals: Float32Array, one: number, other: number): number {
  let sum = 0;
  for (let axis = 0; axis < 3; axis++) sum += normals[one * 3 + axis]! * normals[other * 3 + axis]!;
  return sum;
}
