import { arcTangent } from '../math/trigonometry';
import type { Mesh } from './mesh';
import type { Topology } from './topology';

/** Unit normals of faces, edges and points, x y z each, that tell inside from outside at any place near them. */
export interface SideNormals {
  faces: Float64Array;
  edges: Float64Array;
  points: Float64Array;
}

/** Angle-weighted pseudonormals (Baerentzen and Aanaes 2005). Faces without area get a zero normal. */
export function sideNormals({ positions: p, triangles }: Mesh, t: Topology): SideNormals {
  const faceCount = triangles.length / 3;
  const faces = new Float64Array(faceCount * 3);
  const edges = new Float64Array(t.edgeCount * 3);
  const points = new Float64Array(p.length);
  for (let face = 0; face < faceCount; face++) {
    const at = face * 3;
    const [a, b, c] = [triangles[at]! * 3, triangles[at + 1]! * 3, triangles[at + 2]! * 3];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const size = Math.sqrt(nx * nx + ny * ny + nz * nz);
    if (!(size > 1e-12)) continue;
    faces[at] = nx / size;
    faces[at + 1] = ny / size;
    faces[at + 2] = nz / size;
    // Twice the area is the sine of each corner's angle times its sides; the cosine comes from the sides.
    const [uu, vv, uv] = [ux * ux + uy * uy + uz * uz, vx * vx + vy * vy + vz * vz, ux * vx + uy * vy + uz * vz];
    add(points, a, faces, at, arcTangent(size, uv));
    add(points, b, faces, at, arcTangent(size, uu - uv));
    add(points, c, faces, at, arcTangent(size, vv - uv));
    for (let corner = 0; corner < 3; corner++) add(edges, t.faceEdges[at + corner]! * 3, faces, at, 1);
  }
  toUnits(edges);
  toUnits(points);
  return { faces, edges, points };
}

function add(sums: Float64Array, to: number, from: Float64Array, at: number, weight: number): void {
  sums[to]! += from[at]! * weight;
  sums[to + 1]! += from[at + 1]! * weight;
  sums[to + 2]! += from[at + 2]! * weight;
}

/** What has no direction points up. */
function toUnits(sums: Float64Array): void {
  for (let i = 0; i < sums.length; i += 3) {
    const size = Math.sqrt(sums[i]! * sums[i]! + sums[i + 1]! * sums[i + 1]! + sums[i + 2]! * sums[i + 2]!);
    const sound = size > 1e-12;
    sums[i] = sound ? sums[i]! / size : 0;
    sums[i + 1] = sound ? sums[i + 1]! / size : 1;
    sums[i + 2] = sound ? sums[i + 2]! / size : 0;
  }
}
