import type { Topology } from './topology';

/** Which border edges are sewn to another one: per edge the first edge of its seam, itself where it is sewn to none. */
export function seamEdges(t: Topology, sewn: Uint32Array): Uint32Array {
  const of = Uint32Array.from({ length: t.edgeCount }, (_, edge) => edge);
  const first = new Map<string, number>();
  for (let edge = 0; edge < t.edgeCount; edge++) {
    if (t.edgeFaces[edge * 2 + 1] !== -1) continue;
    const ends = [sewn[t.edgePoints[edge * 2]!]!, sewn[t.edgePoints[edge * 2 + 1]!]!].sort((a, b) => a - b);
    const key = ends.join(' ');
    const known = first.get(key);
    if (known === undefined) first.set(key, edge);
    else of[edge] = known;
  }
  return of;
}

/** Border edges that nothing is sewn to. */
export function openBorders(t: Topology, sewn: Uint32Array | undefined): number[] {
  const borders = [...Array(t.edgeCount).keys()].filter((edge) => t.edgeFaces[edge * 2 + 1]! < 0);
  if (!sewn) return borders;
  const of = seamEdges(t, sewn);
  const shared = new Set(of.filter((first, edge) => first !== edge));
  return borders.filter((edge) => of[edge] === edge && !shared.has(edge));
}
