import * as Attachment from '@lumbra/kernel/layouts/constraints/attachment';
import * as Point from '@lumbra/kernel/layouts/point';
import type { Fabric } from '../../fabric/fabric';
import { pointCount, type Mesh } from '../../mesh/mesh';
import type { Topology } from '../../mesh/topology';
import type { KernelMemory } from '../kernelMemory';
import { writeStarts, type ColourStarts } from './colourStarts';
import { nearestHeld, type NearestHeld } from './nearestHeld';

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
  const isHeld = new Uint8Array(pointCount(rest));
  for (const point of held) isHeld[point] = 1;
  const groups = heldGroups(t, held, isHeld);
  const nearest = nearestHeld(rest, fabric, groups, MOST_GROUPS);
  // What the fabric gives under its load is its own, and not to be taken away. All that hangs below loads the least bit above.
  const softest = Math.max(1e-9, Math.min(fabric.stretchWarp, fabric.stretchWeft));
  const give = (UNEVEN * fabric.weight * acceleration * nearest.farthest) / softest;
  const all: Attached[] = [];
  for (let round = 0; round < MOST_GROUPS; round++) {
    for (let point = 0; point < isHeld.length; point++) {
      if (isHeld[point] || round >= nearest.counts[point]!) continue;
      const at = point * MOST_GROUPS + round;
      const [own, group] = [nearest.points[at]!, nearest.groups[at]!];
      all.push({ point, held: own, group, distance: nearest.distances[at]! * (1 + give) + 1e-5, round });
    }
  }
  return { all, between: waysBetween(groups, nearest), groups: groups.length };
}

interface Found {
  /** Round by round, in each in the order of the points. */
  all: Attached[];
  between: Between[];
  groups: number;
}

/** From each point of each group to the nearest of each of the groups that are nearest to it. */
function waysBetween(groups: readonly (readonly number[])[], nearest: NearestHeld): Between[] {
  return groups.flatMap((points, group) =>
    points.flatMap((own) =>
      Array.from({ length: nearest.counts[own]! }, (_, i) => own * MOST_GROUPS + i)
        .filter((at) => nearest.groups[at] !== group)
        .map((at) => ({ group, own, other: nearest.points[at]!, distance: nearest.distances[at]! + 1e-5 })),
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
