import { arcTangent } from '../math/trigonometry';
import { cross, direction, dot, length, type Vector3 } from '../math/vector';
import { pointCount, type Mesh } from './mesh';
import type { Topology } from './topology';

/** Unit normals of faces, edges and points that tell inside from outside at any place near them. */
export interface SideNormals {
  faces: Vector3[];
  edges: Vector3[];
  points: Vector3[];
}

/** Angle-weighted pseudonormals (Baerentzen and Aanaes 2005). Faces without area get a zero normal. */
export function sideNormals(mesh: Mesh, t: Topology): SideNormals {
  const at = (point: number): Vector3 => [
    mesh.positions[point * 3]!,
    mesh.positions[point * 3 + 1]!,
    mesh.positions[point * 3 + 2]!,
  ];
  const faceCount = mesh.triangles.length / 3;
  const faces: Vector3[] = [];
  const edgeSums = new Float64Array(t.edgeCount * 3);
  const pointSums = new Float64Array(pointCount(mesh) * 3);
  const add = (sums: Float64Array, index: number, n: Vector3, weight: number) => {
    for (let axis = 0; axis < 3; axis++) sums[index * 3 + axis]! += n[axis]! * weight;
  };
  for (let face = 0; face < faceCount; face++) {
    const corners = [0, 1, 2].map((corner) => mesh.triangles[face * 3 + corner]!);
    const places = corners.map(at);
    const n = direction(cross(minus(places[1]!, places[0]!), minus(places[2]!, places[0]!))) ?? [0, 0, 0];
    faces.push(n);
    for (let corner = 0; corner < 3; corner++) {
      const a = minus(places[(corner + 1) % 3]!, places[corner]!);
      const b = minus(places[(corner + 2) % 3]!, places[corner]!);
      add(pointSums, corners[corner]!, n, arcTangent(length(cross(a, b)), dot(a, b)));
      add(edgeSums, t.faceEdges[face * 3 + corner]!, n, 1);
    }
  }
  return { faces, edges: units(edgeSums), points: units(pointSums) };
}

function minus(a: Vector3, b: Vector3): Vector3 {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}

function units(sums: Float64Array): Vector3[] {
  return Array.from(
    { length: sums.length / 3 },
    (_, i) => direction([sums[i * 3]!, sums[i * 3 + 1]!, sums[i * 3 + 2]!]) ?? [0, 1, 0],
  );
}
