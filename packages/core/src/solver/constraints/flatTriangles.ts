import type { Fabric } from '../../fabric/fabric';
import { restSizeOf, scaleOf, type FaceScales } from '../../fabric/faceScales';
import { length, type Vector3 } from '../../math/vector';
import { pointCount, type Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';

/** The triangles of a cloth as they lie flat, at the size that the fabric wants to have. */
export interface FlatTriangles {
  /** Per triangle a, b, c, d: warp tangent = a e1 + c e2, weft tangent = b e1 + d e2; zero where it has no area. */
  inverses: Float64Array;
  /** In m^2, at rest size. */
  areas: Float64Array;
  /** Mass of each point in kg: the weight of a third of the faces around it, as cut. */
  pointMasses: Float64Array;
}

/** Lays the triangles flat: by material coordinates, else each in its own plane with the warp along x (or z). */
export function flatTriangles(rest: Mesh, fabric: Fabric, scales?: FaceScales): FlatTriangles {
  const count = rest.triangles.length / 3;
  const inverses = new Float64Array(count * 4);
  const areas = new Float64Array(count);
  const pointMasses = new Float64Array(pointCount(rest));
  const edges = allFlatEdges(rest);
  for (let t = 0; t < count; t++) {
    const [e1u, e1v, e2u, e2v] = [edges[t * 4]!, edges[t * 4 + 1]!, edges[t * 4 + 2]!, edges[t * 4 + 3]!];
    const cut = Math.abs(e1u * e2v - e1v * e2u) / 2;
    const weight = fabric.weight * scaleOf(scales, 'weight', t);
    const warp = restSizeOf(fabric.restWarp, scales, 'restWarp', t);
    const weft = restSizeOf(fabric.restWeft, scales, 'restWeft', t);
    for (let corner = 0; corner < 3; corner++) {
      pointMasses[rest.triangles[t * 3 + corner]!]! += (cut * weight) / 3;
    }
    const [p, q, r, s] = [e1u * warp, e1v * weft, e2u * warp, e2v * weft];
    const determinant = p * s - q * r;
    if (Math.abs(determinant) < 1e-14) continue;
    areas[t] = Math.abs(determinant) / 2;
    // [warp tangent, weft tangent] = [e1, e2] M^-1 with M = [[p, r], [q, s]], whose columns are the edges.
    inverses[t * 4] = s / determinant;
    inverses[t * 4 + 1] = -r / determinant;
    inverses[t * 4 + 2] = -q / determinant;
    inverses[t * 4 + 3] = p / determinant;
  }
  return { inverses, areas, pointMasses };
}

/** The same of all triangles, one after the other. */
const allFlatEdges = oncePerMesh((rest): Float64Array => {
  const edges = new Float64Array((rest.triangles.length / 3) * 4);
  for (let t = 0; t < rest.triangles.length / 3; t++) edges.set(flatEdges(rest, t), t * 4);
  return edges;
});

/** Edges 0 to 1 and 0 to 2 of a triangle as it lies flat: (e1 u, e1 v, e2 u, e2 v) in metres. */
export function flatEdges(rest: Mesh, triangle: number): [number, number, number, number] {
  const [i, j, k] = [0, 1, 2].map((corner) => rest.triangles[triangle * 3 + corner]!) as [number, number, number];
  if (rest.cornerMaterial) {
    const m = rest.cornerMaterial.subarray(triangle * 6, triangle * 6 + 6);
    return [m[2]! - m[0]!, m[3]! - m[1]!, m[4]! - m[0]!, m[5]! - m[1]!];
  }
  if (rest.material) {
    const m = rest.material;
    return [m[j * 2]! - m[i * 2]!, m[j * 2 + 1]! - m[i * 2 + 1]!, m[k * 2]! - m[i * 2]!, m[k * 2 + 1]! - m[i * 2 + 1]!];
  }
  const p = rest.positions;
  const edge = (to: number): Vector3 => [
    p[to * 3]! - p[i * 3]!,
    p[to * 3 + 1]! - p[i * 3 + 1]!,
    p[to * 3 + 2]! - p[i * 3 + 2]!,
  ];
  const [e1, e2] = [edge(j), edge(k)];
  const normal: Vector3 = [e1[1] * e2[2] - e1[2] * e2[1], e1[2] * e2[0] - e1[0] * e2[2], e1[0] * e2[1] - e1[1] * e2[0]];
  const size = length(normal);
  if (size < 1e-20) return [0, 0, 0, 0];
  const n: Vector3 = [normal[0] / size, normal[1] / size, normal[2] / size];
  // The warp follows the world's x projected into the triangle, or its z where the triangle faces along x.
  const axis: Vector3 = Math.abs(n[0]) < 0.9 ? [1, 0, 0] : [0, 0, 1];
  const along = n[0] * axis[0] + n[2] * axis[2];
  const warp: Vector3 = [axis[0] - along * n[0], -along * n[1], axis[2] - along * n[2]];
  const scale = 1 / length(warp);
  const weft: Vector3 = [
    (n[1] * warp[2] - n[2] * warp[1]) * scale,
    (n[2] * warp[0] - n[0] * warp[2]) * scale,
    (n[0] * warp[1] - n[1] * warp[0]) * scale,
  ];
  const onto = (e: Vector3, d: Vector3, s: number) => (e[0] * d[0] + e[1] * d[1] + e[2] * d[2]) * s;
  return [onto(e1, warp, scale), onto(e1, weft, 1), onto(e2, warp, scale), onto(e2, weft, 1)];
}
