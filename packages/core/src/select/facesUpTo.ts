import type { Mesh } from '../mesh/mesh';
import { cosine } from '../math/trigonometry';
import { faceNormals } from '../mesh/faceNormals';
import { facesBeside } from './growFaces';

/**
 * Faces, and all that are reached from them over edges that are folded by no more than a limit: a side of a box, a panel between ribs.
 *
 * @param limit in radians
 */
export function facesUpTo(mesh: Mesh, faces: readonly number[], limit: number): number[] {
  const normals = faceNormals(mesh);
  const least = cosine(limit) - 1e-6;
  const all = new Set(faces);
  // A set is gone through in the order in which it grows.
  for (const face of all) {
    for (const other of facesBeside(mesh, face)) {
      const along = [0, 1, 2].reduce((sum, k) => sum + normals[face * 3 + k]! * normals[other * 3 + k]!, 0);
      if (along >= least) all.add(other);
    }
  }
  return [...all].sort((a, b) => a - b);
}
