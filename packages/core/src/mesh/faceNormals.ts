import type { Mesh } from './mesh';

/** Unit normals of faces, x y z each; nothing where a face has no area. */
export function faceNormals({ positions, triangles }: Pick<Mesh, 'positions' | 'triangles'>): Float32Array {
  const out = new Float32Array(triangles.length);
  for (let at = 0; at < triangles.length; at += 3) {
    const [a, b, c] = [triangles[at]! * 3, triangles[at + 1]! * 3, triangles[at + 2]! * 3];
    const [ux, uy, uz] = [
      positions[b]! - positions[a]!,
      positions[b + 1]! - positions[a + 1]!,
      positions[b + 2]! - positions[a + 2]!,
    ];
    const [vx, vy, vz] = [
      positions[c]! - positions[a]!,
      positions[c + 1]! - positions[a + 1]!,
      positions[c + 2]! - positions[a + 2]!,
    ];
    const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const length = Math.sqrt(x * x + y * y + z * z) || 1;
    out[at] = x / length;
    out[at + 1] = y / length;
    out[at + 2] = z / length;
  }
  return out;
}
