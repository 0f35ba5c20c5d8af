import type { Mesh } from '../mesh/mesh';
import { borderLoops, topology } from '../mesh/topology';

/** Points that follow each other along a border. */
export interface BorderRun {
  /** Indices into the points that were asked for, in the order along the border. */
  order: number[];
  /** Whether they are all of a border, so that the last is followed by the first. */
  ring: boolean;
}

/** Whether points are one stretch of a border without a gap, in whatever order they are given; null where they are not. */
export function borderRun(mesh: Mesh, points: readonly number[]): BorderRun | null {
  const index = new Map(points.map((point, i) => [point, i]));
  if (index.size !== points.length || points.length < 2) return null;
  for (const loop of borderLoops(topology(mesh))) {
    const inside = loop.map((point) => index.has(point));
    if (!inside.includes(true)) continue;
    const count = inside.filter(Boolean).length;
    if (count !== points.length) return null;
    const ring = count === loop.length;
    // From after a gap, so that a stretch over the loop's own beginning is one.
    const start = ring ? 0 : inside.findIndex((is, i) => is && !inside.at(i - 1));
    const order = Array.from({ length: count }, (_, i) => index.get(loop[(start + i) % loop.length]!));
    return order.includes(undefined) ? null : { order: order as number[], ring };
  }
  return null;
}
