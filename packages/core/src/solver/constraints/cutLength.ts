import type { Mesh } from '../../mesh/mesh';
import type { Topology } from '../../mesh/topology';
import { flatEdges } from './flatTriangles';

/** How long in m an edge of a face was cut. */
export function cutLength(rest: Mesh, { faceEdges }: Topology, edge: number, face: number): number {
  const [u1, v1, u2, v2] = flatEdges(rest, face);
  const side = [0, 1, 2].find((corner) => faceEdges[face * 3 + corner] === edge)!;
  const [u, v] = side === 0 ? [u1, v1] : side === 1 ? [u2 - u1, v2 - v1] : [u2, v2];
  return Math.sqrt(u * u + v * v);
}
