import type { Fabric } from '../fabric/fabric';
import { length } from '../math/vector';
import { triangleCount, type Mesh } from '../mesh/mesh';
import { oncePerMesh } from '../mesh/oncePerMesh';
import { topology } from '../mesh/topology';
import { flatEdges } from './constraints/flatTriangles';
import { loosestAnywhere } from './constraints/loosest';
import type { ClothModel } from './model';

/** How long an edge of a cloth may come to be at rest, in m. */
export function longestPossible(model: ClothModel, fabric: Fabric): number {
  const { restWarp, restWeft } = loosestAnywhere(model, fabric);
  return longestEdge(model.rest) * Math.max(1, restWarp, restWeft);
}

/** The longest edge of a mesh, in m. Of closed seams it is as they were cut: their points lie between where the pieces start. */
const longestEdge = oncePerMesh((mesh): number => {
  if (mesh.cornerMaterial) return longestCut(mesh);
  const { positions } = mesh;
  const { edgePoints, edgeCount } = topology(mesh);
  let longest = 0;
  for (let edge = 0; edge < edgeCount; edge++) {
    const [a, b] = [edgePoints[edge * 2]! * 3, edgePoints[edge * 2 + 1]! * 3];
    const [x, y, z] = [0, 1, 2].map((axis) => positions[a + axis]! - positions[b + axis]!) as [number, number, number];
    longest = Math.max(longest, length([x, y, z]));
  }
  return longest;
});

function longestCut(mesh: Mesh): number {
  let longest = 0;
  for (let face = 0; face < triangleCount(mesh); face++) {
    const [u, v, s, t] = flatEdges(mesh, face);
    for (const [x, y] of [
      [u, v],
      [s, t],
      [s - u, t - v],
    ] as const)
      longest = Math.max(longest, length([x, y, 0]));
  }
  return longest;
}
