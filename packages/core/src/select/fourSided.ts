import { apart, type Vector3 } from '../math/vector';
import type { Mesh } from '../mesh/mesh';
import { topology } from '../mesh/topology';

// Triangles that were four-sided faces before they were cut in two.

/** The face with which one makes up a four-sided face: across its longest edge, where that is the longest of the other one too; -1 for none. */
export function partner(mesh: Mesh, face: number): number {
  const { edgeFaces } = topology(mesh);
  const edge = longestEdge(mesh, face);
  const other = edgeFaces[edge * 2]! === face ? edgeFaces[edge * 2 + 1]! : edgeFaces[edge * 2]!;
  return other >= 0 && longestEdge(mesh, other) === edge ? other : -1;
}

/** Whether an edge cuts a four-sided face in two. */
export function isDiagonal(mesh: Mesh, edge: number): boolean {
  const { edgeFaces } = topology(mesh);
  const [one, other] = [edgeFaces[edge * 2]!, edgeFaces[edge * 2 + 1]!];
  return other >= 0 && longestEdge(mesh, one) === edge && longestEdge(mesh, other) === edge;
}

function longestEdge(mesh: Mesh, face: number): number {
  const { edgePoints, faceEdges } = topology(mesh);
  const place = (point: number): Vector3 => [0, 1, 2].map((k) => mesh.positions[point * 3 + k]!) as unknown as Vector3;
  const size = (edge: number) => apart(place(edgePoints[edge * 2]!), place(edgePoints[edge * 2 + 1]!));
  return [0, 1, 2]
    .map((side) => faceEdges[face * 3 + side]!)
    .reduce((best, edge) => (size(edge) > size(best) ? edge : best));
}
