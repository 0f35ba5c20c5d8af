import { borderLoops, topology } from '../mesh/topology';
import type { Mesh } from '../mesh/mesh';

/** The border points from one to another, both included, the shorter way round; empty when they are not on one border. */
export function borderStretch(mesh: Mesh, from: number, to: number): number[] {
  for (const loop of borderLoops(topology(mesh))) {
    const [start, end] = [loop.indexOf(from), loop.indexOf(to)];
    if (start < 0 || end < 0) continue;
    const forth = walk(loop, start, end);
    const back = walk(loop, end, start);
    return wayLength(mesh, forth) <= wayLength(mesh, back) ? forth : back;
  }
  return [];
}

/** The border point whose place is nearest to that of a point, positions x y z in m; -1 without a border. */
export function nearestBorderPoint(mesh: Mesh, positions: ArrayLike<number>, point: number): number {
  let best = -1;
  let bestSquare = Infinity;
  for (const other of borderLoops(topology(mesh)).flat()) {
    const square = [0, 1, 2].reduce(
      (sum, axis) => sum + (positions[other * 3 + axis]! - positions[point * 3 + axis]!) ** 2,
      0,
    );
    if (square < bestSquare) [best, bestSquare] = [other, square];
  }
  return best;
}

function walk(loop: number[], start: number, end: number): number[] {
  const length = ((end - start + loop.length) % loop.length) + 1;
  return Array.from({ length }, (_, i) => loop[(start + i) % loop.length]!);
}

function wayLength({ positions }: Mesh, way: number[]): number {
  let length = 0;
  for (let i = 1; i < way.length; i++) {
    const [a, b] = [way[i - 1]! * 3, way[i]! * 3];
    length += Math.hypot(
      positions[a]! - positions[b]!,
      positions[a + 1]! - positions[b + 1]!,
      positions[a + 2]! - positions[b + 2]!,
    );
  }
  return length;
}
