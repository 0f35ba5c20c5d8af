import { borderLoops, topology } from '../mesh/topology';
import { pointCount, type Mesh } from '../mesh/mesh';

/** Sides and corners of a cloth, by its material coordinates: u along the width, v along the height. */
export type Side = 'start' | 'end' | 'top' | 'bottom';

/** All points on the borders, in point order. */
export function borderPoints(mesh: Mesh): number[] {
  return borderLoops(topology(mesh))
    .flat()
    .sort((a, b) => a - b);
}

/** Border points on one side of a cloth that is cut as a rectangle: u = least or most, v = least or most. */
export function sidePoints(mesh: Mesh, side: Side): number[] {
  const m = mesh.material;
  if (!m) return [];
  const axis = side === 'start' || side === 'end' ? 0 : 1;
  const values = Array.from({ length: pointCount(mesh) }, (_, point) => m[point * 2 + axis]!);
  const wanted = side === 'start' || side === 'top' ? least(values) : most(values);
  return values.flatMap((value, point) => (Math.abs(value - wanted) < 1e-6 ? [point] : []));
}

/** The points nearest to the four corners of the flat shape, in the order top start, top end, bottom start, bottom end. */
export function cornerPoints(mesh: Mesh): number[] {
  const m = mesh.material;
  if (!m) return [];
  const us = Array.from({ length: pointCount(mesh) }, (_, point) => m[point * 2]!);
  const vs = Array.from({ length: pointCount(mesh) }, (_, point) => m[point * 2 + 1]!);
  const corners = [least(vs), most(vs)].flatMap((v) => [least(us), most(us)].map((u) => [u, v] as const));
  return [...new Set(corners.map(([u, v]) => nearestMaterial(mesh, u, v)))];
}

/** The points and all their neighbours along edges. */
export function grownPoints(mesh: Mesh, points: readonly number[]): number[] {
  const from = new Set(points);
  const grown = new Set(points);
  for (const [a, b] of edgesOf(mesh)) {
    if (from.has(a)) grown.add(b);
    if (from.has(b)) grown.add(a);
  }
  return [...grown].sort((a, b) => a - b);
}

/** The points without those that have a neighbour which is not among them. */
export function shrunkPoints(mesh: Mesh, points: readonly number[]): number[] {
  const all = new Set(points);
  const edge = new Set<number>();
  for (const [a, b] of edgesOf(mesh)) {
    if (all.has(a) && !all.has(b)) edge.add(a);
    if (all.has(b) && !all.has(a)) edge.add(b);
  }
  return points.filter((point) => !edge.has(point));
}

function edgesOf(mesh: Mesh): (readonly [number, number])[] {
  const { edgePoints } = topology(mesh);
  return Array.from({ length: edgePoints.length / 2 }, (_, edge) => [edgePoints[edge * 2]!, edgePoints[edge * 2 + 1]!]);
}

/** The point whose place in the flat shape is nearest. */
function nearestMaterial(mesh: Mesh, u: number, v: number): number {
  const m = mesh.material!;
  let best = 0;
  let bestSquare = Infinity;
  for (let point = 0; point < pointCount(mesh); point++) {
    const square = (m[point * 2]! - u) ** 2 + (m[point * 2 + 1]! - v) ** 2;
    if (square < bestSquare) {
      bestSquare = square;
      best = point;
    }
  }
  return best;
}

/**
 * The same places on a mesh of another spacing or size: each point goes to the nearest at the same share of
 * width and height. Order is kept, doubles are dropped.
 */
export function carryPoints(from: Mesh, to: Mesh, points: readonly number[]): number[] {
  const [a, b] = [from.material, to.material];
  if (!a || !b) return points.filter((point) => point < pointCount(to));
  if (from.parts && to.parts) return carryByPiece(from, to, points);
  // Cut as a pattern, a sheet lies where it lay.
  if (from.parts || to.parts) return carryByPlace(from, to, points);
  const [oldSize, newSize] = [materialSize(a), materialSize(b)];
  const carried = points
    .filter((point) => point < pointCount(from))
    .map((point) =>
      nearestMaterial(to, (a[point * 2]! / oldSize[0]) * newSize[0], (a[point * 2 + 1]! / oldSize[1]) * newSize[1]),
    );
  return [...new Set(carried)];
}

/** Points go to the nearest as both lie in the axes of the cloth. */
function carryByPlace(from: Mesh, to: Mesh, points: readonly number[]): number[] {
  const [a, b] = [from.positions, to.positions];
  const carried = points.map((point) => {
    let [best, nearest] = [0, Infinity];
    for (let i = 0; i < pointCount(to); i++) {
      const square =
        (b[i * 3]! - a[point * 3]!) ** 2 +
        (b[i * 3 + 1]! - a[point * 3 + 1]!) ** 2 +
        (b[i * 3 + 2]! - a[point * 3 + 2]!) ** 2;
      if (square < nearest) [best, nearest] = [i, square];
    }
    return best;
  });
  return [...new Set(carried)];
}

/** Points stay at their places of their own piece; those of a piece that is gone are dropped. */
function carryByPiece(from: Mesh, to: Mesh, points: readonly number[]): number[] {
  const [a, b] = [from.material!, to.material!];
  const carried = points.flatMap((point) => {
    const part = from.parts!.find(({ first, count }) => point >= first && point < first + count);
    const other = to.parts!.find(({ id }) => id === part?.id);
    if (!part || !other) return [];
    const u = a[point * 2]! - part.corner[0] + other.corner[0];
    const v = a[point * 2 + 1]! - part.corner[1] + other.corner[1];
    let best = other.first;
    let nearest = Infinity;
    for (let i = other.first; i < other.first + other.count; i++) {
      const square = (b[i * 2]! - u) ** 2 + (b[i * 2 + 1]! - v) ** 2;
      if (square < nearest) [best, nearest] = [i, square];
    }
    return best;
  });
  return [...new Set(carried)];
}

function materialSize(material: Float32Array): [number, number] {
  const us = material.filter((_, i) => i % 2 === 0);
  const vs = material.filter((_, i) => i % 2 === 1);
  return [most(us) || 1, most(vs) || 1];
}

function least(values: ArrayLike<number>): number {
  let found = Infinity;
  for (let i = 0; i < values.length; i++) found = Math.min(found, values[i]!);
  return found;
}

function most(values: ArrayLike<number>): number {
  let found = -Infinity;
  for (let i = 0; i < values.length; i++) found = Math.max(found, values[i]!);
  return found;
}
