import { pointCount } from './mesh';
import { oncePerMesh } from './oncePerMesh';

/** Which points, edges and faces of a mesh touch each other. Edges are in order of first appearance. */
export interface Topology {
  readonly edgeCount: number;
  /** Two points an edge, in the direction in which its first face runs along it. */
  readonly edgePoints: Uint32Array;
  /** Two faces an edge; the second is -1 on a border. */
  readonly edgeFaces: Int32Array;
  /** The point of each of the two faces that is not on the edge; the second is -1 on a border. */
  readonly edgeOpposites: Int32Array;
  /** Three edges a face: corners 0 to 1, 1 to 2, 2 to 0. */
  readonly faceEdges: Uint32Array;
  /** Edges with more than two faces. */
  readonly nonManifoldEdges: number;
  /** Edges whose two faces run along them in the same direction, so that their normals disagree. */
  readonly flippedEdges: number;
  readonly borderEdges: number;
}

/** The topology of a mesh, found in one pass over its faces. A third face on an edge is counted, not linked. */
export const topology = oncePerMesh((mesh): Topology => {
  const { triangles } = mesh;
  const faces = triangles.length / 3;
  const points = pointCount(mesh);
  // The edges that have a point as their lower one, as a chain: far quicker than a map of edges, and as few as a point has neighbours.
  const firstEdge = new Int32Array(points).fill(-1);
  const nextEdge = new Int32Array(triangles.length);
  const edgePoints = new Uint32Array(triangles.length * 2);
  const edgeFaces = new Int32Array(triangles.length * 2).fill(-1);
  const edgeOpposites = new Int32Array(triangles.length * 2).fill(-1);
  const faceEdges = new Uint32Array(triangles.length);
  const crowded = new Set<number>();
  let flippedEdges = 0;
  let edgeCount = 0;
  for (let face = 0; face < faces; face++) {
    for (let corner = 0; corner < 3; corner++) {
      const a = triangles[face * 3 + corner]!;
      const b = triangles[face * 3 + ((corner + 1) % 3)]!;
      const opposite = triangles[face * 3 + ((corner + 2) % 3)]!;
      const low = a < b ? a : b;
      const sum = a + b;
      let edge = firstEdge[low]!;
      while (edge !== -1 && edgePoints[edge * 2]! + edgePoints[edge * 2 + 1]! !== sum) edge = nextEdge[edge]!;
      if (edge === -1) {
        edge = edgeCount++;
        nextEdge[edge] = firstEdge[low]!;
        firstEdge[low] = edge;
        edgePoints[edge * 2] = a;
        edgePoints[edge * 2 + 1] = b;
        edgeFaces[edge * 2] = face;
        edgeOpposites[edge * 2] = opposite;
      } else if (edgeFaces[edge * 2 + 1] === -1) {
        edgeFaces[edge * 2 + 1] = face;
        edgeOpposites[edge * 2 + 1] = opposite;
        if (edgePoints[edge * 2] === a) flippedEdges++;
      } else {
        crowded.add(edge);
      }
      faceEdges[face * 3 + corner] = edge;
    }
  }
  let borderEdges = 0;
  for (let edge = 0; edge < edgeCount; edge++) if (edgeFaces[edge * 2 + 1] === -1) borderEdges++;
  return {
    edgeCount,
    edgePoints: edgePoints.slice(0, edgeCount * 2),
    edgeFaces: edgeFaces.slice(0, edgeCount * 2),
    edgeOpposites: edgeOpposites.slice(0, edgeCount * 2),
    faceEdges,
    nonManifoldEdges: crowded.size,
    flippedEdges,
    borderEdges,
  };
});

/** A mesh without borders and without crowded edges has an inside. */
export function isClosed(t: Topology): boolean {
  return t.borderEdges === 0 && t.nonManifoldEdges === 0 && t.flippedEdges === 0;
}

/** The borders as closed loops of point indices, in the direction in which the faces run along them. */
export function borderLoops(t: Topology): number[][] {
  const next = new Map<number, number>();
  for (let edge = 0; edge < t.edgeCount; edge++) {
    if (t.edgeFaces[edge * 2 + 1] === -1) next.set(t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!);
  }
  const loops: number[][] = [];
  const seen = new Set<number>();
  for (const start of next.keys()) {
    const loop: number[] = [];
    for (let at: number | undefined = start; at !== undefined && !seen.has(at); at = next.get(at)) {
      seen.add(at);
      loop.push(at);
    }
    if (loop.length > 0) loops.push(loop);
  }
  return loops;
}
