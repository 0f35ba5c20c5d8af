import { faceNormals } from '../mesh/faceNormals';
import type { Mesh } from '../mesh/mesh';
import { overlappingBoxes } from '../mesh/overlappingBoxes';

/** Neighbours that lie less the same way than this (cosine) are folded onto each other. */
const FOLDED = 0.3;

/**
 * Tells of all pairs of faces that may meet when points move, each once: `reach` says how far those of a face go, in m; a face with less than nothing is left
 * out. Faces that share a point, which those that are sewn together do, only where they are folded onto each other; `neighbours` says so.
 */
export function eachClosePair(
  { positions, triangles, sewn }: Pick<Mesh, 'positions' | 'triangles' | 'sewn'>,
  reach: (face: number) => number,
  found: (one: number, other: number, neighbours: boolean) => void,
): void {
  const faces = triangles.length / 3;
  const reaches = new Float32Array(faces);
  const boxes = new Float32Array(faces * 6);
  for (let face = 0; face < faces; face++) {
    const [i, j, k] = [triangles[face * 3]! * 3, triangles[face * 3 + 1]! * 3, triangles[face * 3 + 2]! * 3];
    const far = (reaches[face] = reach(face));
    for (let axis = 0; axis < 3; axis++) {
      const [a, b, c] = [positions[i + axis]!, positions[j + axis]!, positions[k + axis]!];
      boxes[face * 6 + axis] = far < 0 ? Infinity : Math.min(a, b, c) - far;
      boxes[face * 6 + 3 + axis] = far < 0 ? -Infinity : Math.max(a, b, c) + far;
    }
  }
  const normals = faceNormals({ positions, triangles });
  const corners = sewn ? triangles.map((point) => sewn[point]!) : triangles;
  overlappingBoxes(boxes, (one, other) => {
    if (shareCorner(corners, one * 3, other * 3)) {
      if (leanOf(normals, one, other) < FOLDED) found(one, other, true);
      return;
    }
    // Boxes of faces that lie side by side touch; mostly a line between them shows that they cannot meet.
    const both = reaches[one]! + reaches[other]!;
    if (apartBeside(positions, triangles, normals, one, other, both)) return;
    if (!apartBeside(positions, triangles, normals, other, one, both)) found(one, other, false);
  });
}

/** Whether two faces lie farther apart than so many m along the normal of the first, or across one of its sides (separating axes: Gottschalk et al. 1996). */
function apartBeside(
  positions: Float32Array,
  triangles: Uint32Array,
  normals: Float32Array,
  one: number,
  other: number,
  distance: number,
): boolean {
  const [nx, ny, nz] = [normals[one * 3]!, normals[one * 3 + 1]!, normals[one * 3 + 2]!];
  for (let side = 0; side < 4; side++) {
    let [x, y, z] = [nx, ny, nz];
    if (side < 3) {
      const from = triangles[one * 3 + side]! * 3;
      const to = triangles[one * 3 + ((side + 1) % 3)]! * 3;
      const ex = positions[to]! - positions[from]!;
      const ey = positions[to + 1]! - positions[from + 1]!;
      const ez = positions[to + 2]! - positions[from + 2]!;
      const length = Math.sqrt(ex * ex + ey * ey + ez * ez);
      if (length === 0) continue;
      x = (ey * nz - ez * ny) / length;
      y = (ez * nx - ex * nz) / length;
      z = (ex * ny - ey * nx) / length;
    }
    let [low, high, otherLow, otherHigh] = [Infinity, -Infinity, Infinity, -Infinity];
    for (let corner = 0; corner < 3; corner++) {
      const i = triangles[one * 3 + corner]! * 3;
      const j = triangles[other * 3 + corner]! * 3;
      const own = x * positions[i]! + y * positions[i + 1]! + z * positions[i + 2]!;
      const far = x * positions[j]! + y * positions[j + 1]! + z * positions[j + 2]!;
      if (own < low) low = own;
      if (own > high) high = own;
      if (far < otherLow) otherLow = far;
      if (far > otherHigh) otherHigh = far;
    }
    if (otherLow - high > distance || low - otherHigh > distance) return true;
  }
  return false;
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
