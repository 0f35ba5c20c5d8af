import type { Mesh } from '../mesh/mesh';
import { topology } from '../mesh/topology';
import { isDiagonal, partner } from './fourSided';

/**
 * The row of faces across an edge: both that have it, and on either side what lies across the edge opposite, to a border or round to where it began.
 * Two triangles that share the longest edge of both count as one four-sided face, so that rows go round tubes and along strips; a triangle without such a
 * partner ends the row. From an edge between two such partners the row goes by their other edges.
 *
 * @returns indices of faces, sorted
 */
export function faceRow(mesh: Mesh, edge: number): number[] {
  const { edgeFaces, faceEdges } = topology(mesh);
  const found = new Set<number>();
  const beside = edgeFaces[edge * 2]!;
  const others = [0, 1, 2].map((side) => faceEdges[beside * 3 + side]!).filter((side) => side !== edge);
  const start = isDiagonal(mesh, edge) ? others[0]! : edge;
  for (const face of [edgeFaces[start * 2]!, edgeFaces[start * 2 + 1]!]) if (face >= 0) go(mesh, start, face, found);
  return [...found].sort((a, b) => a - b);
}

/** Takes a face, what belongs to it, and what lies across the opposite edge, until there is nothing or it was taken. */
function go(mesh: Mesh, from: number, first: number, found: Set<number>): void {
  const { edgeFaces, edgePoints, faceEdges } = topology(mesh);
  let [edge, face] = [from, first];
  while (face >= 0 && !found.has(face)) {
    found.add(face);
    const mate = partner(mesh, face);
    if (mate < 0 || found.has(mate)) return;
    found.add(mate);
    const [a, b] = [edgePoints[edge * 2]!, edgePoints[edge * 2 + 1]!];
    // The opposite edge shares no point with the one that was come in by.
    const opposite = [0, 1, 2]
      .map((side) => faceEdges[mate * 3 + side]!)
      .find((side) => [0, 1].every((end) => edgePoints[side * 2 + end] !== a && edgePoints[side * 2 + end] !== b));
    if (opposite === undefined) return;
    const beyond = edgeFaces[opposite * 2]! === mate ? edgeFaces[opposite * 2 + 1]! : edgeFaces[opposite * 2]!;
    [edge, face] = [opposite, beyond];
  }
}
