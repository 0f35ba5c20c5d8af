import { orient2d } from 'robust-predicates';
import { next, previous, turnEdge, type Triangulation } from './halfEdges';

/** Edges are turned at most so often for each that they cross; more are never needed but where a point lies on the wanted edge. */
const MOST_TURNS = 20;

/**
 * Makes given edges edges of a triangulation, by turning those that they cross (Sloan 1993). Borders that are sampled evenly are nearly all there
 * already, so each that is missing may take its time.
 *
 * @param coords u v of each point
 * @returns the edges that could not be had, since a point lies on them
 */
export function constrain(
  mesh: Triangulation,
  coords: Float64Array,
  edges: readonly (readonly [number, number])[],
): [number, number][] {
  const present = edgesAmong(mesh, edges, coords.length / 2);
  return edges
    .filter(([a, b]) => !present.has(edgeKey(a, b)))
    .filter(([a, b]) => !recover(mesh, coords, a, b))
    .map(([a, b]) => [a, b]);
}

export function edgeKey(a: number, b: number): number {
  return a < b ? a * 2 ** 26 + b : b * 2 ** 26 + a;
}

/** All edges between points that some wanted edge has. */
function edgesAmong(
  { triangles }: Triangulation,
  wanted: readonly (readonly [number, number])[],
  count: number,
): Set<number> {
  const isWanted = new Uint8Array(count);
  for (const [a, b] of wanted) isWanted[a] = isWanted[b] = 1;
  const found = new Set<number>();
  for (let half = 0; half < triangles.length; half++) {
    const a = triangles[half]!;
    const b = triangles[next(half)]!;
    if (isWanted[a] === 1 && isWanted[b] === 1) found.add(edgeKey(a, b));
  }
  return found;
}

function recover(mesh: Triangulation, coords: Float64Array, a: number, b: number): boolean {
  const { triangles, halfedges } = mesh;
  const turn = (p: number, q: number, r: number) =>
    orient2d(
      ...([coords[p * 2]!, coords[p * 2 + 1]!, coords[q * 2]!, coords[q * 2 + 1]!] as const),
      ...([coords[r * 2]!, coords[r * 2 + 1]!] as const),
    );
  const crosses = (p: number, q: number) => {
    if (p === a || p === b || q === a || q === b) return false;
    return turn(a, b, p) * turn(a, b, q) < 0 && turn(p, q, a) * turn(p, q, b) < 0;
  };
  const crossing: number[] = [];
  // Edges far away are told by the box around the wanted one.
  const [lowU, highU] = [Math.min(coords[a * 2]!, coords[b * 2]!), Math.max(coords[a * 2]!, coords[b * 2]!)];
  const [lowV, highV] = [
    Math.min(coords[a * 2 + 1]!, coords[b * 2 + 1]!),
    Math.max(coords[a * 2 + 1]!, coords[b * 2 + 1]!),
  ];
  const isNear = (p: number, q: number) =>
    Math.min(coords[p * 2]!, coords[q * 2]!) <= highU &&
    Math.max(coords[p * 2]!, coords[q * 2]!) >= lowU &&
    Math.min(coords[p * 2 + 1]!, coords[q * 2 + 1]!) <= highV &&
    Math.max(coords[p * 2 + 1]!, coords[q * 2 + 1]!) >= lowV;
  for (let half = 0; half < triangles.length; half++) {
    if (halfedges[half]! < half || !isNear(triangles[half]!, triangles[next(half)]!)) continue;
    if (crosses(triangles[half]!, triangles[next(half)]!)) crossing.push(half);
  }
  for (let left = MOST_TURNS * crossing.length; crossing.length > 0; left--) {
    if (left === 0) return false;
    const half = crossing.shift()!;
    const other = halfedges[half]!;
    const [p, q] = [triangles[half]!, triangles[next(half)]!];
    const [r, s] = [triangles[previous(half)]!, triangles[previous(other)]!];
    // Only where its two triangles are convex together can the edge be turned.
    if (turn(r, s, p) * turn(r, s, q) >= 0) {
      crossing.push(half);
      continue;
    }
    turnEdge(mesh, half);
    // The turned edge goes from the far point of one triangle to that of the other; it stands where the halves were linked, and what stood there stands after it.
    const turned = previous(half);
    const moved = new Map([
      [previous(other), half],
      [turned, other],
    ]);
    crossing.forEach((one, i) => (crossing[i] = moved.get(one) ?? one));
    if (crosses(triangles[turned]!, triangles[next(turned)]!)) crossing.push(turned);
  }
  return has(mesh, a, b);
}

function has({ triangles }: Triangulation, a: number, b: number): boolean {
  for (let half = 0; half < triangles.length; half++) {
    const [p, q] = [triangles[half]!, triangles[next(half)]!];
    if ((p === a && q === b) || (p === b && q === a)) return true;
  }
  return false;
}
