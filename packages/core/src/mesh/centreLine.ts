import { apart, type Vector3 } from '../math/vector';
import { pointCount, type Mesh } from './mesh';
import { topology } from './topology';

/** The line along the middle of a rod, and how thick that is. */
export interface CentreLine {
  /** Even along its length, from end to end, in m. */
  places: Vector3[];
  /** How far its surface is from the line on average, in m. */
  radius: number;
}

/** What is thicker than this share of its length is no rod. */
const THICKEST = 0.12;

/**
 * The line along the middle of a mesh that is long and thin and has two ends, of so many places; null where it is not. It is cut where its surface is
 * equally far from one end, by the way over its edges; the middles of the cuts are the line (level set curve skeleton: Verroust and Lazarus,
 * Extracting skeletal curves from 3D scattered data, 2000).
 */
export function centreLine(mesh: Mesh, count: number): CentreLine | null {
  if (mesh.triangles.length === 0) return null;
  const somewhere = farthest(distancesFrom(mesh, mesh.triangles[0]!));
  const away = distancesFrom(mesh, somewhere);
  const whole = away[farthest(away)]!;
  if (!(whole > 0)) return null;
  // Near its ends a cut is no cross-section; there the line goes straight on.
  const middle = cutAt(mesh, away, whole / 2);
  if (!middle || middle.radius > THICKEST * whole) return null;
  const margin = Math.min(2 * middle.radius, whole / 4);
  const cuts = Array.from({ length: count }, (_, i) =>
    cutAt(mesh, away, margin + ((whole - 2 * margin) * i) / (count - 1)),
  );
  if (cuts.some((cut) => !cut || cut.radius > 2 * THICKEST * whole)) return null;
  const line = cuts.map((cut) => cut!.place);
  const [first, last] = [goOn(line[1]!, line[0]!, margin), goOn(line.at(-2)!, line.at(-1)!, margin)];
  const radius = cuts.reduce((sum, cut) => sum + cut!.radius / count, 0);
  return { places: evenly([first, ...line, last], count), radius };
}

/** Places so many along a line of straight pieces, from its beginning to its end, even by length. */
export function evenly(line: readonly Vector3[], count: number): Vector3[] {
  const along = [0];
  for (let i = 1; i < line.length; i++) along.push(along[i - 1]! + apart(line[i - 1]!, line[i]!));
  const whole = along.at(-1)!;
  let at = 0;
  return Array.from({ length: count }, (_, i) => {
    const wanted = (whole * i) / (count - 1);
    while (at + 2 < line.length && along[at + 1]! < wanted) at++;
    const size = along[at + 1]! - along[at]!;
    const share = size > 0 ? Math.min(1, (wanted - along[at]!) / size) : 0;
    return mix(line[at]!, line[at + 1]!, share);
  });
}

function mix(a: Vector3, b: Vector3, share: number): Vector3 {
  return [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1]), a[2] + share * (b[2] - a[2])];
}

/** As far beyond a place as is asked for, straight on from the one before it. */
function goOn(before: Vector3, at: Vector3, by: number): Vector3 {
  const step = apart(before, at);
  return step > 0 ? mix(before, at, 1 + by / step) : at;
}

function farthest(distances: Float64Array): number {
  let best = 0;
  distances.forEach((distance, point) => {
    if (distance < Infinity && distance > distances[best]!) best = point;
  });
  return best;
}

/** How far each point is from one over the edges, in m; infinite where it does not hang together with it. */
function distancesFrom(mesh: Mesh, from: number): Float64Array {
  const { edgeCount, edgePoints } = topology(mesh);
  const beside = Array.from({ length: pointCount(mesh) }, () => [] as number[]);
  for (let edge = 0; edge < edgeCount; edge++) {
    beside[edgePoints[edge * 2]!]!.push(edgePoints[edge * 2 + 1]!);
    beside[edgePoints[edge * 2 + 1]!]!.push(edgePoints[edge * 2]!);
  }
  const distances = new Float64Array(beside.length).fill(Infinity);
  distances[from] = 0;
  // Label correcting: on a rod hardly any point is come to twice.
  const pending = [from];
  for (let next = 0; next < pending.length; next++) {
    const point = pending[next]!;
    for (const other of beside[point]!) {
      const distance = distances[point]! + apart(placeOf(mesh, point), placeOf(mesh, other));
      if (distance >= distances[other]! - 1e-12) continue;
      distances[other] = distance;
      pending.push(other);
    }
  }
  return distances;
}

/** The middle of where the surface is so far along, weighed by length, and how far it is from there; null where nothing is. */
function cutAt(mesh: Mesh, along: Float64Array, level: number): { place: Vector3; radius: number } | null {
  const pieces: { a: Vector3; b: Vector3; size: number }[] = [];
  for (let corner = 0; corner < mesh.triangles.length; corner += 3) {
    const points = mesh.triangles.subarray(corner, corner + 3);
    const crossed: Vector3[] = [];
    for (let side = 0; side < 3; side++) {
      const [p, q] = [points[side]!, points[(side + 1) % 3]!];
      const [low, high] = [along[p]! - level, along[q]! - level];
      if (low < 0 === high < 0) continue;
      crossed.push(mix(placeOf(mesh, p), placeOf(mesh, q), low / (low - high)));
    }
    const [a, b] = crossed;
    if (a && b) pieces.push({ a, b, size: apart(a, b) });
  }
  const whole = pieces.reduce((sum, { size }) => sum + size, 0);
  if (!(whole > 0)) return null;
  const place: [number, number, number] = [0, 0, 0];
  for (const { a, b, size } of pieces) {
    for (let k = 0; k < 3; k++) place[k]! += ((a[k]! + b[k]!) / 2) * (size / whole);
  }
  const radius = pieces.reduce(
    (sum, { a, b, size }) => sum + ((apart(a, place) + apart(b, place)) * size) / (2 * whole),
    0,
  );
  return { place, radius };
}

function placeOf({ positions }: Mesh, point: number): Vector3 {
  return [positions[point * 3]!, positions[point * 3 + 1]!, positions[point * 3 + 2]!];
}
