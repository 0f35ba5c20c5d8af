import { pointCount, type Mesh } from './mesh';

/** Several meshes as one, in order; without material coordinates and animation, which do not fit together. */
export function makeOneMesh(meshes: readonly Mesh[]): Mesh {
  const points = meshes.reduce((sum, mesh) => sum + mesh.positions.length, 0);
  const corners = meshes.reduce((sum, mesh) => sum + mesh.triangles.length, 0);
  const positions = new Float32Array(points);
  const triangles = new Uint32Array(corners);
  let [first, corner] = [0, 0];
  for (const mesh of meshes) {
    positions.set(mesh.positions, first * 3);
    triangles.set(
      mesh.triangles.map((point) => point + first),
      corner,
    );
    first += pointCount(mesh);
    corner += mesh.triangles.length;
  }
  return { positions, triangles };
}
