import type { Mesh } from '../mesh/mesh';
import { topology } from '../mesh/topology';

/** The points of some edges, sorted. */
export function pointsOfEdges(mesh: Mesh, edges: readonly number[]): number[] {
  const { edgePoints } = topology(mesh);
  return sorted(edges.flatMap((edge) => [edgePoints[edge * 2]!, edgePoints[edge * 2 + 1]!]));
}

/** The points of some faces, sorted. */
export function pointsOfFaces({ triangles }: Mesh, faces: readonly number[]): number[] {
  return sorted(faces.flatMap((face) => [...triangles.subarray(face * 3, face * 3 + 3)]));
}

/** The faces all of whose points are among some; where there are none, those with any. */
export function facesOfPoints({ triangles }: Mesh, points: readonly number[]): number[] {
  const among = new Set(points);
  const faces = Array.from({ length: triangles.length / 3 }, (_, face) => face);
  const corners = (face: number) => [0, 1, 2].map((corner) => among.has(triangles[face * 3 + corner]!));
  const whole = faces.filter((face) => corners(face).every(Boolean));
  return whole.length > 0 ? whole : faces.filter((face) => corners(face).some(Boolean));
}

function sorted(points: readonly number[]): number[] {
  return [...new Set(points)].sort((a, b) => a - b);
}
