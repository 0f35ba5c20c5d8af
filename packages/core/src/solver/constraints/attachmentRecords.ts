import * as Attachment from '@lumbra/kernel/layouts/constraints/attachment';
import * as Point from '@lumbra/kernel/layouts/point';
import Delaunator from 'delaunator';
import type { Fabric } from '../../fabric/fabric';
import type { Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import type { Topology } from '../../mesh/topology';
import type { KernelMemory } from '../kernelMemory';
import { writeStarts, type ColourStarts } from './colourStarts';
import { flatEdges } from './flatTriangles';

// Which held points a cloth's points are attached to over a distance, and how far they may be from them. The distance is
// that within the cloth as cut; it never stops being an upper bound, whatever the cloth wraps around.

/** Groups of held points that touch; a point is attached to the nearest of each of the nearest groups. */
const MOST_GROUPS = 4;
/** How much more than its evenly loaded mean a cloth may give: threads that lead to a pin carry more than others. */
const UNEVEN = 3;

/** A cloth with what its points are attached to; `acceleration` in m/s² is what loads it. */
export interface Pinned {
  rest: Mesh;
  held: readonly number[];
  fabric: Fabric;
  acceleration: number;
}

/** The attachments of one cloth in the kernel's memory: see layouts/constraints/attachment.ts there. */
export interface Attachments {
  address: number;
  count: number;
  /** First those to the nearest group of each point, then those to the next one: of each such round a point has one at most. */
  rounds: ColourStarts;
  /** The kernel's address of what distances to each group of held points are scaled by, and how many groups there are. */
  scales: number;
  groups: number;
  /** How many times as far as the cloth is long they reach at least. */
  reach: number;
  /** How far groups of held points may be from each other before cloth between them has to stretch. */
  between: readonly Between[];
}

/** A held point of a group, and how far in m it may be from one of another group: points count within the cloth. */
interface Between {
  group: number;
  own: number;
  other: number;
  distance: number;
}

/** Writes the attachments of one cloth. */
export function buildAttachments(memory: KernelMemory, pinned: Pinned, t: Topology, firstPoint: number): Attachments {
  const { all, between, groups } = findAttachments(pinned, t);
  const address = memory.allocate(all.length * Attachment.BYTES);
  const starts = all.flatMap(({ round }, i) => (i === 0 || all[i - 1]!.round !== round ? [i] : []));
  const rounds = writeStarts(memory, [...starts, all.length]);
  const scales = memory.allocate(Math.max(1, groups) * 4);
  memory.floats(scales, groups).fill(1);
  const attachments = { address, count: all.length, rounds, scales, groups, reach: 1, between };
  writeRecords(memory, attachments, all, firstPoint);
  return attachments;
}

/** Sets how far they reach, and to which held points they lead, where fabric or load have changed. */
export function setAttachments(
  memory: KernelMemory,
  attachments: Attachments,
  pinned: Pinned,
  t: Topology,
  firstPoint: number,
): void {
  if (attachments.count === 0) return;
  const { all, between } = findAttachments(pinned, t);
  writeRecords(memory, attachments, all, firstPoint);
  attachments.between = between;
}

function writeRecords(
  memory: KernelMemory,
  { address, count }: Pick<Attachments, 'address' | 'count'>,
  all: readonly Attached[],
  firstPoint: number,
): void {
  const records = memory.records(address, Attachment.BYTES, count);
  all.forEach(({ point, held, group, distance }, i) => {
    records.setInteger(i, Attachment.POINT, (firstPoint + point) * Point.BYTES);
    records.setInteger(i, Attachment.HELD, (firstPoint + held) * Point.BYTES);
    records.setFloat(i, Attachment.DISTANCE, distance);
    records.setInteger(i, Attachment.SCALE, group * Float32Array.BYTES_PER_ELEMENT);
  });
}

interface Attached {
  point: number;
  held: number;
  group: number;
  distance: number;
  /** How many groups are nearer. */
  round: number;
}

function findAttachments({ rest, held, fabric, acceleration }: Pinned, t: Topology): Found {
  if (held.length === 0) return { all: [], between: [], groups: 0 };
  const points = rest.positions.length / 3;
  const isHeld = new Uint8Array(points);
  for (const point of held) isHeld[point] = 1;
  const groups = heldGroups(t, held, isHeld);
  const nearest = groups.map((group) => nearestIn(rest, t, fabric, group));
  const farthest = nearest.map(({ distances }) =>
    distances.reduce((most, distance) => (Number.isFinite(distance) ? Math.max(most, distance) : most), 0),
  );
  // What the fabric gives under its load is its own, and not to be taken away. All that hangs below loads the least bit above.
  const softest = Math.max(1e-9, Math.min(fabric.stretchWarp, fabric.stretchWeft));
  const give = (UNEVEN * fabric.weight * acceleration * Math.max(...farthest)) / softest;
  const all: Attached[] = [];
  for (let point = 0; point < points; point++) {
    if (isHeld[point]) continue;
    nearest
      .map(({ distances, points: nearestOf }, group) => ({
        ...{ distance: distances[point]!, held: nearestOf[point]!, group },
      }))
      .filter(({ distance }) => Number.isFinite(distance))
      .sort((a, b) => a.distance - b.distance || a.held - b.held)
      .slice(0, MOST_GROUPS)
      .forEach(({ distance, held: own, group }, round) => {
        all.push({ point, held: own, group, distance: distance * (1 + give) + 1e-5, round });
      });
  }
  all.sort((a, b) => a.round - b.round);
  return { all, between: waysBetween(groups, nearest), groups: groups.length };
}

interface Found {
  /** Round by round, in each in the order of the points. */
  all: Attached[];
  between: Between[];
  groups: number;
}

/** From each point of each group to the nearest of each of the groups that are nearest to it. */
function waysBetween(
  groups: readonly (readonly number[])[],
  nearest: readonly { distances: Float64Array; points: Int32Array }[],
): Between[] {
  return groups.flatMap((points, group) =>
    points.flatMap((own) =>
      nearest
        .map(({ distances, points: nearestOf }, of) => ({
          of,
          distance: distances[own]!,
          other: nearestOf[own]!,
        }))
        .filter(({ of, distance }) => of !== group && Number.isFinite(distance))
        .sort((a, b) => a.distance - b.distance || a.of - b.of)
        .slice(0, MOST_GROUPS - 1)
        .map(({ distance, other }) => ({ group, own, other, distance: distance + 1e-5 })),
    ),
  );
}

/** Held points, apart by whether they are joined by edges. */
function heldGroups(t: Topology, held: readonly number[], isHeld: Uint8Array): number[][] {
  const joined = new Map(held.map((point) => [point, [] as number[]]));
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
    if (!isHeld[a] || !isHeld[b]) continue;
    joined.get(a)!.push(b);
    joined.get(b)!.push(a);
  }
  const seen = new Set<number>();
  const groups: number[][] = [];
  for (const start of held) {
    if (seen.has(start)) continue;
    const group: number[] = [];
    const pending = [start];
    seen.add(start);
    for (let point = pending.pop(); point !== undefined; point = pending.pop()) {
      group.push(point);
      for (const other of joined.get(point)!) {
        if (seen.has(other)) continue;
        seen.add(other);
        pending.push(other);
      }
    }
    groups.push(group);
  }
  return groups;
}

/** Distance in the cloth from every point to the nearest of a group, and which that is. */
function nearestIn(
  rest: Mesh,
  t: Topology,
  fabric: Fabric,
  group: readonly number[],
): { distances: Float64Array; points: Int32Array } {
  return isConvex(rest) ? straightDistances(rest, fabric, group) : edgeDistances(rest, t, fabric, group);
}

/** Whether the flat shape has neither hollows nor holes, so that straight ways stay inside. */
const isConvex = oncePerMesh(({ material, triangles }) => {
  if (!material) return false;
  const { hull } = new Delaunator(Float64Array.from(material));
  const place = (point: number) => [material[point * 2]!, material[point * 2 + 1]!] as const;
  const turn = (a: number, b: number, c: number) => {
    const [p, q, r] = [place(a), place(b), place(c)];
    return ((q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])) / 2;
  };
  let [around, covered] = [0, 0];
  for (let i = 1; i + 1 < hull.length; i++) around += turn(hull[0]!, hull[i]!, hull[i + 1]!);
  for (let i = 0; i < triangles.length; i += 3) {
    covered += Math.abs(turn(triangles[i]!, triangles[i + 1]!, triangles[i + 2]!));
  }
  return covered > 0.999 * Math.abs(around);
});

/**
 * How much of its cut size cloth reaches: what is slack by its rest size reaches farther, but what is taut is as long as it was cut between what holds it, and
 * along the edges of a mesh, which are a little longer than the straight way, it would not be seen how far apart that is.
 */
function reachOf(restSize: number): number {
  return Math.max(1, restSize);
}

function straightDistances(rest: Mesh, fabric: Fabric, group: readonly number[]) {
  const m = rest.material!;
  const count = m.length / 2;
  const distances = new Float64Array(count).fill(Infinity);
  const points = new Int32Array(count).fill(-1);
  for (let i = 0; i < count; i++) {
    for (const pin of group) {
      const u = (m[i * 2]! - m[pin * 2]!) * reachOf(fabric.restWarp);
      const v = (m[i * 2 + 1]! - m[pin * 2 + 1]!) * reachOf(fabric.restWeft);
      const distance = Math.sqrt(u * u + v * v);
      if (distance < distances[i]!) {
        distances[i] = distance;
        points[i] = pin;
      }
    }
  }
  return { distances, points };
}

function apart(p: Float32Array, a: number, b: number): number {
  const [x, y, z] = [0, 1, 2].map((axis) => p[a * 3 + axis]! - p[b * 3 + axis]!) as [number, number, number];
  return Math.sqrt(x * x + y * y + z * z);
}

/** Length of an edge on the fabric, in m. */
function flatLength(rest: Mesh, t: Topology, edge: number): number {
  const face = t.edgeFaces[edge * 2]!;
  const [e1u, e1v, e2u, e2v] = flatEdges(rest, face);
  const [u, v] = [
    [e1u, e1v],
    [e2u - e1u, e2v - e1v],
    [e2u, e2v],
  ][[0, 1, 2].find((corner) => t.faceEdges[face * 3 + corner] === edge)!] as [number, number];
  return Math.sqrt(u * u + v * v);
}

/** Shortest paths along edges, a little longer than the cloth's own distances, so never too strict. */
function edgeDistances(rest: Mesh, t: Topology, fabric: Fabric, group: readonly number[]) {
  const count = rest.positions.length / 3;
  const size = Math.max(reachOf(fabric.restWarp), reachOf(fabric.restWeft));
  const p = rest.positions;
  const neighbours = Array.from({ length: count }, () => [] as { point: number; length: number }[]);
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
    const length = (rest.cornerMaterial ? flatLength(rest, t, edge) : apart(p, a, b)) * size;
    neighbours[a]!.push({ point: b, length });
    neighbours[b]!.push({ point: a, length });
  }
  const distances = new Float64Array(count).fill(Infinity);
  const points = new Int32Array(count).fill(-1);
  // Points are taken up again whenever a shorter way to them is found; cloth is small enough for that.
  let wave = [...group];
  for (const pin of group) {
    distances[pin] = 0;
    points[pin] = pin;
  }
  while (wave.length > 0) {
    const next = new Set<number>();
    for (const point of wave) {
      for (const { point: other, length } of neighbours[point]!) {
        const distance = distances[point]! + length;
        if (distance >= distances[other]! - 1e-12) continue;
        distances[other] = distance;
        points[other] = points[point]!;
        next.add(other);
      }
    }
    wave = [...next];
  }
  return { distances, points };
}
