import type { Mesh } from '../mesh/mesh';
import { topology } from '../mesh/topology';

/** Some points and all that hang together with them by edges: whole pieces of a cloth that is cut in several. */
export function wholePieces(mesh: Mesh, points: readonly number[]): number[] {
  const { edgePoints } = topology(mesh);
  const neighbours = new Map<number, number[]>();
  for (let edge = 0; edge < edgePoints.length; edge += 2) {
    for (const [from, to] of [
      [edgePoints[edge]!, edgePoints[edge + 1]!],
      [edgePoints[edge + 1]!, edgePoints[edge]!],
    ] as const) {
      neighbours.set(from, [...(neighbours.get(from) ?? []), to]);
    }
  }
  const found = new Set(points);
  const pending = [...found];
  for (let point = pending.pop(); point !== undefined; point = pending.pop()) {
    for (const next of neighbours.get(point) ?? []) {
      if (found.has(next)) continue;
      found.add(next);
      pending.push(next);
    }
  }
  return [...found].sort((a, b) => a - b);
}
