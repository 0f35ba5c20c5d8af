import type { Mesh } from '../mesh/mesh';
import { borderLoops, topology } from '../mesh/topology';

/**
 * Every nth of some points: along the border those on it, beginning where a stretch of them begins and ending at its end when it
 * fits; the others in point order.
 */
export function everyNth(mesh: Mesh, points: readonly number[], n: number): number[] {
  const wanted = new Set(points);
  const kept: number[] = [];
  for (const loop of borderLoops(topology(mesh))) {
    const inside = loop.map((point) => wanted.has(point));
    if (!inside.includes(true)) continue;
    // From after a gap, so that a stretch over the loop's own beginning is counted as one.
    const gap = inside.indexOf(false);
    let count = 0;
    for (let i = 1; i <= loop.length; i++) {
      const point = loop[(gap + i + loop.length) % loop.length]!;
      if (!wanted.has(point)) {
        count = 0;
        continue;
      }
      if (count++ % n === 0) kept.push(point);
      wanted.delete(point);
    }
  }
  const others = points.filter((point) => wanted.has(point));
  return [...kept, ...others.filter((_, i) => i % n === 0)].sort((a, b) => a - b);
}
