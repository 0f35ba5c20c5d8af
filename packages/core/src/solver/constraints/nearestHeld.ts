import Delaunator from 'delaunator';
import FlatQueue from 'flatqueue';
import type { Fabric } from '../../fabric/fabric';
import { pointCount, type Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import { topology } from '../../mesh/topology';
import { cutLength } from './cutLength';

// How far it is within a cloth, as cut, from each point to what holds it. The distance never stops being an upper bound, whatever the cloth wraps around.

/** Of each point the nearest held point of each of the groups of held points that are nearest to it, the nearest first. */
export interface NearestHeld {
  /** Room for so many groups a point. */
  most: number;
  /** How many each point has. */
  counts: Uint8Array;
  /** Per point `most` of each: the group, its nearest point, and how far that is in m. */
  groups: Int32Array;
  points: Int32Array;
  distances: Float64Array;
  /** The largest of these distances, in m. */
  farthest: number;
}

/** Finds, for each point of a cloth, the nearest of some groups of held points. Its memory does not grow with their number, nor its time along edges. */
export function nearestHeld(
  rest: Mesh,
  fabric: Fabric,
  heldGroups: readonly (readonly number[])[],
  most: number,
): NearestHeld {
  const count = rest.positions.length / 3;
  const found: NearestHeld = {
    most,
    counts: new Uint8Array(count),
    groups: new Int32Array(count * most),
    points: new Int32Array(count * most),
    distances: new Float64Array(count * most),
    farthest: 0,
  };
  if (isConvex(rest)) lookStraight(rest, fabric, heldGroups, found);
  else lookAlongEdges(rest, fabric, heldGroups, found);
  for (let point = 0; point < count; point++) {
    for (let i = 0; i < found.counts[point]!; i++)
      found.farthest = Math.max(found.farthest, found.distances[point * most + i]!);
  }
  return found;
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

function lookStraight(
  rest: Mesh,
  fabric: Fabric,
  heldGroups: readonly (readonly number[])[],
  found: NearestHeld,
): void {
  const m = rest.material!;
  const [warp, weft] = [reachOf(fabric.restWarp), reachOf(fabric.restWeft)];
  for (let point = 0; point < found.counts.length; point++) {
    const [u, v] = [m[point * 2]!, m[point * 2 + 1]!];
    heldGroups.forEach((members, group) => {
      let [nearest, held] = [Infinity, -1];
      for (const member of members) {
        const [across, along] = [(u - m[member * 2]!) * warp, (v - m[member * 2 + 1]!) * weft];
        const distance = Math.sqrt(across * across + along * along);
        if (distance < nearest) [nearest, held] = [distance, member];
      }
      insert(found, point, group, held, nearest);
    });
  }
}

/** Puts a group among those that are nearest to a point, where it belongs there. */
function insert(found: NearestHeld, point: number, group: number, held: number, distance: number): void {
  const { most, counts, groups, points, distances } = found;
  let at = point * most + counts[point]!;
  const first = point * most;
  if (counts[point]! < most) counts[point]!++;
  else if (!isBefore(distance, held, --at)) return;
  for (; at > first && isBefore(distance, held, at - 1); at--) {
    [groups[at], points[at], distances[at]] = [groups[at - 1]!, points[at - 1]!, distances[at - 1]!];
  }
  [groups[at], points[at], distances[at]] = [group, held, distance];

  function isBefore(than: number, member: number, other: number): boolean {
    return than < distances[other]! || (than === distances[other]! && member < points[other]!);
  }
}

/**
 * Shortest ways along edges, a little longer than the cloth's own distances, so never too strict. From all held points at once (Dijkstra 1959), going on from
 * each point for the nearest groups only: what is nearest to a point is so all along the way there.
 */
function lookAlongEdges(
  rest: Mesh,
  fabric: Fabric,
  heldGroups: readonly (readonly number[])[],
  found: NearestHeld,
): void {
  const { starts, others, lengths } = neighbours(rest);
  const size = Math.max(reachOf(fabric.restWarp), reachOf(fabric.restWeft));
  const { most, counts, groups, points, distances } = found;
  const queue = new FlatQueue();
  // What is on its way: to which point, of which group, from which held point.
  const [ways, isOf, from]: [number[], number[], number[]] = [[], [], []];
  const add = (point: number, group: number, held: number, distance: number) => {
    queue.push(ways.length, distance);
    ways.push(point);
    isOf.push(group);
    from.push(held);
  };
  const has = (point: number, group: number) => {
    for (let i = 0; i < counts[point]!; i++) if (groups[point * most + i] === group) return true;
    return false;
  };
  heldGroups.forEach((members, group) => {
    for (const member of members) add(member, group, member, 0);
  });
  while (queue.length > 0) {
    const distance = queue.peekValue()!;
    const way = queue.pop()!;
    const [point, group, held] = [ways[way]!, isOf[way]!, from[way]!];
    if (counts[point]! === most || has(point, group)) continue;
    const at = point * most + counts[point]!++;
    [groups[at], points[at], distances[at]] = [group, held, distance];
    for (let i = starts[point]!; i < starts[point + 1]!; i++) {
      const other = others[i]!;
      if (counts[other]! < most && !has(other, group)) add(other, group, held, distance + lengths[i]! * size);
    }
  }
}

/** The neighbours of each point, point after point, and how far they are at rest size, in m. */
const neighbours = oncePerMesh((rest) => {
  const t = topology(rest);
  const starts = new Uint32Array(pointCount(rest) + 1);
  for (const point of t.edgePoints) starts[point + 1]!++;
  for (let point = 0; point + 1 < starts.length; point++) starts[point + 1]! += starts[point]!;
  const next = starts.slice();
  const others = new Uint32Array(t.edgePoints.length);
  const lengths = new Float64Array(t.edgePoints.length);
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const ends = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!] as const;
    const length = rest.cornerMaterial
      ? cutLength(rest, t, edge, t.edgeFaces[edge * 2]!)
      : apart(rest.positions, ...ends);
    for (const [own, other] of [ends, [ends[1], ends[0]] as const]) {
      const at = next[own]!++;
      others[at] = other;
      lengths[at] = length;
    }
  }
  return { starts, others, lengths };
});

function apart(p: Float32Array, a: number, b: number): number {
  const [x, y, z] = [0, 1, 2].map((axis) => p[a * 3 + axis]! - p[b * 3 + axis]!) as [number, number, number];
  return Math.sqrt(x * x + y * y + z * z);
}
