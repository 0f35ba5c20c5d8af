import { apart, dot, minus, type Vector3 } from '../math/vector';
import type { Mesh } from './mesh';
import { placeOn, type SurfacePlace } from './nearestPlace';
import { topology } from './topology';

/** A border of a mesh, edge after edge. */
interface Border {
  /** Per edge its face, and the corners of that at which it begins and ends. */
  edges: { face: number; from: number; to: number }[];
  /** Per edge where it begins, in m along the border; at the end the whole length. */
  along: number[];
}

/** How far the nearest place of a border is along it, and from the place that was asked about, both in m. */
interface OnBorder {
  at: number;
  distance: number;
}

/** Stretches are compared with a border at these shares of their length. */
const SHARES = [0, 0.25, 0.5, 0.75, 1];

/**
 * Where places belong on the borders of a mesh, in their order; null where it has none. With a run they go along one border: from where its ends are
 * nearest, spread as they are spread along the run, the way round that is nearer to them; else each is at the nearest place of any.
 */
export function borderPlaces(
  mesh: Mesh,
  places: readonly Vector3[],
  run: { order: readonly number[]; ring: boolean } | null,
): SurfacePlace[] | null {
  const borders = bordersOf(mesh);
  if (borders.length === 0) return null;
  if (!run) {
    return places.map((place) => {
      const all = borders.map((border) => ({ border, ...nearestOn(mesh, border, place) }));
      const { border, at } = all.reduce((best, one) => (one.distance < best.distance ? one : best));
      return surfacePlace(mesh, border, at, place);
    });
  }
  const ordered = run.order.map((i) => places[i]!);
  const shares = sharesAlong(ordered, run.ring);
  const probes = SHARES.map((share) => {
    const found = shares.findIndex((one) => one >= share);
    return found < 0 ? ordered.length - 1 : found;
  });
  const fit = (border: Border, from: number, by: number) =>
    probes.reduce((sum, i) => sum + apart(placeAlong(mesh, border, from + by * shares[i]!), ordered[i]!), 0);
  let best: { border: Border; from: number; by: number; off: number } | null = null;
  for (const border of borders) {
    const whole = border.along.at(-1)!;
    const from = nearestOn(mesh, border, ordered[0]!).at;
    const to = nearestOn(mesh, border, ordered.at(-1)!).at;
    const forth = run.ring ? whole : (to - from + whole) % whole;
    for (const by of [forth, forth - (run.ring ? 2 : 1) * whole]) {
      const off = fit(border, from, by);
      if (!best || off < best.off) best = { border, from, by, off };
    }
  }
  const { border, from, by } = best!;
  const found: SurfacePlace[] = [];
  run.order.forEach((i, n) => (found[i] = surfacePlace(mesh, border, from + by * shares[n]!, places[i]!)));
  return found;
}

/** The borders of a mesh as rings of edges, in the direction in which its faces run along them; those without length are left out. */
function bordersOf(mesh: Mesh): Border[] {
  const { edgeCount, edgePoints, edgeFaces, faceEdges } = topology(mesh);
  const next = new Map<number, number>();
  for (let edge = 0; edge < edgeCount; edge++) {
    if (edgeFaces[edge * 2 + 1] === -1) next.set(edgePoints[edge * 2]!, edge);
  }
  const seen = new Set<number>();
  const borders: Border[] = [];
  for (const start of next.keys()) {
    const border: Border = { edges: [], along: [0] };
    for (let point = start, edge = next.get(point); edge !== undefined && !seen.has(edge); edge = next.get(point)) {
      seen.add(edge);
      const face = edgeFaces[edge * 2]!;
      const corner = [0, 1, 2].find((i) => faceEdges[face * 3 + i] === edge)!;
      border.edges.push({ face, from: corner, to: (corner + 1) % 3 });
      const end = edgePoints[edge * 2 + 1]!;
      border.along.push(border.along.at(-1)! + apart(pointOf(mesh, point), pointOf(mesh, end)));
      point = end;
    }
    if (border.along.at(-1)! > 0) borders.push(border);
  }
  return borders;
}

function nearestOn(mesh: Mesh, { edges, along }: Border, place: Vector3): OnBorder {
  let best: OnBorder = { at: 0, distance: Infinity };
  edges.forEach(({ face, from, to }, i) => {
    const [a, b] = [from, to].map((corner) => pointOf(mesh, mesh.triangles[face * 3 + corner]!)) as [Vector3, Vector3];
    const edge = minus(b, a);
    const square = dot(edge, edge);
    const share = square > 0 ? Math.min(1, Math.max(0, dot(minus(place, a), edge) / square)) : 0;
    const foot: Vector3 = [a[0] + share * edge[0], a[1] + share * edge[1], a[2] + share * edge[2]];
    const distance = apart(place, foot);
    if (distance < best.distance) best = { at: along[i]! + share * (along[i + 1]! - along[i]!), distance };
  });
  return best;
}

/** The face and weights at a length along a border, from its beginning and round again. */
function faceAlong({ edges, along }: Border, length: number): { face: number; weights: Vector3 } {
  const whole = along.at(-1)!;
  const at = ((length % whole) + whole) % whole;
  let [low, high] = [0, edges.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (along[middle]! <= at) low = middle;
    else high = middle - 1;
  }
  const { face, from, to } = edges[low]!;
  const size = along[low + 1]! - along[low]!;
  const share = size > 0 ? Math.min(1, (at - along[low]!) / size) : 0;
  const weights: [number, number, number] = [0, 0, 0];
  weights[from] = 1 - share;
  weights[to] = share;
  return { face, weights };
}

function placeAlong(mesh: Mesh, border: Border, length: number): Vector3 {
  return placeOn(mesh.positions, mesh.triangles, faceAlong(border, length));
}

function surfacePlace(mesh: Mesh, border: Border, length: number, place: Vector3): SurfacePlace {
  const found = faceAlong(border, length);
  return { ...found, distance: apart(placeOn(mesh.positions, mesh.triangles, found), place) };
}

/** Per place how far along all of them it is, 0 to 1; of a ring the way back to the first belongs to it. */
function sharesAlong(places: readonly Vector3[], ring: boolean): number[] {
  const lengths = [0];
  for (let i = 1; i < places.length; i++) lengths.push(lengths[i - 1]! + apart(places[i - 1]!, places[i]!));
  const whole = lengths.at(-1)! + (ring ? apart(places.at(-1)!, places[0]!) : 0);
  const count = ring ? places.length : places.length - 1;
  return lengths.map((length, i) => (whole > 0 ? length / whole : i / count));
}

function pointOf({ positions }: Mesh, point: number): Vector3 {
  return [positions[point * 3]!, positions[point * 3 + 1]!, positions[point * 3 + 2]!];
}
