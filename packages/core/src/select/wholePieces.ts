import { pointCount, type Mesh } from '../mesh/mesh';
import { oncePerMesh } from '../mesh/oncePerMesh';
import { topology } from '../mesh/topology';

/**
 * Some points and all that hang together with them by edges: whole pieces of a cloth that is cut in several. With `among`, only those
 * of its points count.
 */
export function wholePieces(mesh: Mesh, points: readonly number[], among?: ReadonlySet<number>): number[] {
  const neighbours = neighboursOf(mesh);
  const found = new Set(points);
  const pending = [...found];
  for (let point = pending.pop(); point !== undefined; point = pending.pop()) {
    for (const next of neighbours[point] ?? []) {
      if (found.has(next) || among?.has(next) === false) continue;
      found.add(next);
      pending.push(next);
    }
  }
  return [...found].sort((a, b) => a - b);
}

/** The points that each is joined with by an edge. */
const neighboursOf = oncePerMesh((mesh) => {
  const { edgePoints } = topology(mesh);
  const neighbours = Array.from({ length: pointCount(mesh) }, () => [] as number[]);
  for (let edge = 0; edge < edgePoints.length; edge += 2) {
    const [a, b] = [edgePoints[edge]!, edgePoints[edge + 1]!];
    neighbours[a]!.push(b);
    neighbours[b]!.push(a);
  }
  return neighbours;
});
