import type { Mesh } from './mesh';
import { sideNormals } from './sideNormals';
import { topology } from './topology';

/**
 * A copy whose surface lies so many metres outside (negative: inside), each point moved along its angle-weighted normal by as much as
 * keeps the faces around it at that distance, up to twice the distance at sharp corners. The copy has no animation.
 */
export function offsetMesh(mesh: Mesh, distance: number): Mesh {
  const { positions, triangles } = mesh;
  const { faces, points } = sideNormals(mesh, topology(mesh));
  // The mean, over the faces around a point, of the cosine by which its normal leans away from theirs.
  const leanSums = new Float64Array(positions.length / 3);
  const counts = new Uint16Array(positions.length / 3);
  triangles.forEach((point, i) => {
    const face = Math.floor(i / 3) * 3;
    const at = point * 3;
    leanSums[point]! +=
      points[at]! * faces[face]! + points[at + 1]! * faces[face + 1]! + points[at + 2]! * faces[face + 2]!;
    counts[point]!++;
  });
  const moved = positions.map((value, i) => {
    const point = Math.floor(i / 3);
    if (counts[point] === 0) return value;
    return value + (points[i]! * distance) / Math.max(0.5, leanSums[point]! / counts[point]!);
  });
  return { positions: moved, triangles };
}
