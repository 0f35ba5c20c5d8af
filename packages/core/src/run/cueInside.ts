import type { Vector3 } from '../math/vector';
import type { Mesh } from '../mesh/mesh';
import { nearestPlace, placeOn, type SurfacePlace } from '../mesh/nearestPlace';
import { sideNormals, type SideNormals } from '../mesh/sideNormals';
import { topology, type Topology } from '../mesh/topology';
import { pointAt, type ThingSurface } from './thingSurface';

/** Tells whether points, x y z in m, are inside of a thing: behind its surface where that is nearest; under the ground. */
export function insideOf({ local, mesh }: ThingSurface, positions: Float32Array): (point: number) => boolean {
  if (!mesh) return (point) => local(pointAt(positions, point))[1] < 0;
  const t = topology(mesh.mesh);
  const normals = sideNormals(mesh.mesh, t);
  return (point) => {
    const at = local(pointAt(positions, point));
    if (at.some((value, axis) => value < mesh.low[axis]! || value > mesh.high[axis]!)) return false;
    const place = nearestPlace(mesh.mesh, mesh.tree, at);
    if (!place) return false;
    const [on, normal] = [
      placeOn(mesh.mesh.positions, mesh.mesh.triangles, place),
      normalAt(mesh.mesh, t, normals, place),
    ];
    return [0, 1, 2].reduce((sum, axis) => sum + (at[axis]! - on[axis]!) * normal[axis]!, 0) < 0;
  };
}

/** The normal that tells inside from outside at a place of a mesh: of its face, or where it lies on them, of an edge or a point. */
function normalAt({ triangles }: Mesh, t: Topology, normals: SideNormals, { face, weights }: SurfacePlace): Vector3 {
  const weighing = [0, 1, 2].filter((corner) => weights[corner]! > 0);
  const of = (values: Float64Array, index: number): Vector3 => [
    values[index * 3]!,
    values[index * 3 + 1]!,
    values[index * 3 + 2]!,
  ];
  if (weighing.length === 1) return of(normals.points, triangles[face * 3 + weighing[0]!]!);
  if (weighing.length === 3) return of(normals.faces, face);
  // An edge goes from its corner to the next one.
  const [a, b] = weighing as [number, number];
  return of(normals.edges, t.faceEdges[face * 3 + (b === a + 1 ? a : b)]!);
}
