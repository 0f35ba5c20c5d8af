import { cosine } from '../math/trigonometry';
import { faceNormals } from '../mesh/faceNormals';
import type { Mesh } from '../mesh/mesh';
import { topology } from '../mesh/topology';

/**
 * The edges at which two faces are folded by more than a limit: the hem of a box, the rim of a bowl.
 *
 * @param limit in radians
 */
export function foldedEdges(mesh: Mesh, limit: number): number[] {
  const { edgeCount, edgeFaces } = topology(mesh);
  const normals = faceNormals(mesh);
  const most = cosine(limit) - 1e-6;
  const found: number[] = [];
  for (let edge = 0; edge < edgeCount; edge++) {
    const [one, other] = [edgeFaces[edge * 2]!, edgeFaces[edge * 2 + 1]!];
    if (other < 0) continue;
    const along = [0, 1, 2].reduce((sum, k) => sum + normals[one * 3 + k]! * normals[other * 3 + k]!, 0);
    if (along < most) found.push(edge);
  }
  return found;
}
