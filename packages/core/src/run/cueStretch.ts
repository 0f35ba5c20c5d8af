import { pointCount, type Mesh } from '../mesh/mesh';
import { facesAround } from '../mesh/pointLists';
import { flatEdges } from '../solver/constraints/flatTriangles';

/** Per point, the mean over the faces around it of how far each is stretched along warp or weft, where more, against its cut. */
export function pointStretch(mesh: Mesh, positions: Float32Array): Float64Array {
  const { triangles } = mesh;
  const faces = Float64Array.from({ length: triangles.length / 3 }, (_, face) => faceStretch(mesh, positions, face));
  const { starts, entries } = facesAround(mesh);
  return Float64Array.from({ length: pointCount(mesh) }, (_, point) => {
    const [first, last] = [starts[point]!, starts[point + 1]!];
    let sum = 0;
    for (let i = first; i < last; i++) sum += faces[entries[i]!]!;
    return last > first ? sum / (last - first) : 0;
  });
}

function faceStretch(mesh: Mesh, p: Float32Array, face: number): number {
  const [p0, q0, r0, s0] = flatEdges(mesh, face);
  const determinant = p0 * s0 - q0 * r0;
  if (Math.abs(determinant) < 1e-14) return 0;
  const [a, b, c] = [0, 1, 2].map((corner) => mesh.triangles[face * 3 + corner]! * 3) as [number, number, number];
  let [warp, weft] = [0, 0];
  for (let axis = 0; axis < 3; axis++) {
    const [e1, e2] = [p[b + axis]! - p[a + axis]!, p[c + axis]! - p[a + axis]!];
    const [u, v] = [(e1 * s0 - e2 * q0) / determinant, (e2 * p0 - e1 * r0) / determinant];
    warp += u * u;
    weft += v * v;
  }
  return Math.max(Math.sqrt(warp), Math.sqrt(weft)) - 1;
}
