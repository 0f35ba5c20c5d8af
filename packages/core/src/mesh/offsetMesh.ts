import type { Mesh } from './mesh';
import { pointNormals } from './normals';

/**
 * A copy whose surface lies so many metres outside (negative: inside), each point moved along its normal by as much as keeps the
 * faces around it at that distance, up to twice the distance at sharp corners. The copy has no animation.
 */
export function offsetMesh(mesh: Mesh, distance: number): Mesh {
  const { positions, triangles } = mesh;
  const normals = pointNormals(positions, triangles);
  // The mean, over the faces around a point, of how far its normal leans away from theirs.
  const leanSums = new Float64Array(normals.length / 3);
  const faces = new Uint16Array(normals.length / 3);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
    const [ux, uy, uz] = [0, 1, 2].map((k) => positions[b + k]! - positions[a + k]!) as [number, number, number];
    const [vx, vy, vz] = [0, 1, 2].map((k) => positions[c + k]! - positions[a + k]!) as [number, number, number];
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const size = Math.sqrt(n[0]! ** 2 + n[1]! ** 2 + n[2]! ** 2);
    if (size === 0) continue;
    for (const at of [a, b, c]) {
      leanSums[at / 3]! += (normals[at]! * n[0]! + normals[at + 1]! * n[1]! + normals[at + 2]! * n[2]!) / size;
      faces[at / 3]!++;
    }
  }
  const moved = positions.map((value, i) => {
    const point = Math.floor(i / 3);
    const lean = faces[point]! > 0 ? Math.max(0.5, leanSums[point]! / faces[point]!) : 1;
    return value + (normals[i]! * distance) / lean;
  });
  return { positions: moved, triangles };
}
