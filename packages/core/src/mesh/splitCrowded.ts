import { keepPoints } from './keepPoints';
import { pointCount, type Mesh } from './mesh';
import { topology, type Topology } from './topology';

/** Gives faces beyond the second on an edge points of their own there, so that no edge has more than two faces. */
export function splitCrowded(mesh: Mesh, known?: Topology): { mesh: Mesh; split: number } {
  const t = known ?? topology(mesh);
  const triangles = mesh.triangles.slice();
  const kept = Array.from({ length: pointCount(mesh) }, (_, i) => i);
  let split = 0;
  for (let face = 0; face < triangles.length / 3; face++) {
    for (let corner = 0; corner < 3; corner++) {
      const edge = t.faceEdges[face * 3 + corner]!;
      if (t.edgeFaces[edge * 2] === face || t.edgeFaces[edge * 2 + 1] === face) continue;
      for (const at of [face * 3 + corner, face * 3 + ((corner + 1) % 3)]) {
        kept.push(kept[triangles[at]!]!);
        triangles[at] = kept.length - 1;
      }
      split++;
    }
  }
  return { mesh: split > 0 ? keepPoints(mesh, kept, triangles) : mesh, split };
}
