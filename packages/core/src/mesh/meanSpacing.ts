import { faceAreas } from './faceAreas';
import type { Mesh } from './mesh';
import { oncePerMesh } from './oncePerMesh';

/** How far the points of a mesh are apart, in m: the side of a square cell of two of its mean faces. */
export const meanSpacing = oncePerMesh((mesh: Mesh): number => {
  const area = faceAreas(mesh).reduce((sum, face) => sum + face, 0);
  return Math.sqrt((2 * area) / Math.max(1, mesh.triangles.length / 3));
});
