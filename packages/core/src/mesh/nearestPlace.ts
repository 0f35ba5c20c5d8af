import type { Vector3 } from '../math/vector';
import type { BoxTree } from './boxTree';
import type { Mesh } from './mesh';

/** A place on the surface of a mesh: a face and how its corners weigh in there. */
export interface SurfacePlace {
  face: number;
  weights: Vector3;
  /** m */
  distance: number;
}

/**
 * The place on a mesh that is nearest to a point; undefined for a mesh without faces, and where none is within `most` m. The tree is that of the mesh. The nearest
 * place of a triangle is found by its regions (Ericson, Real-Time Collision Detection, 2005, 5.1.5).
 */
export function nearestPlace(mesh: Mesh, tree: BoxTree, point: Vector3, most = Infinity): SurfacePlace | undefined {
  let best: SurfacePlace | undefined;
  let square = most * most;
  const pending = mesh.triangles.length > 0 ? [0] : [];
  for (let node = pending.pop(); node !== undefined; node = pending.pop()) {
    if (boxSquare(tree, node, point) >= square) continue;
    const first = tree.first[node]!;
    if (tree.count[node] === 0) {
      // The nearer child is looked at first, so that the farther one is often left out.
      const near = boxSquare(tree, first, point) <= boxSquare(tree, first + 1, point);
      pending.push(near ? first + 1 : first, near ? first : first + 1);
      continue;
    }
    for (let i = 0; i < tree.count[node]!; i++) {
      const face = tree.faces[first + i]!;
      const weights = nearestWeights(mesh, face, point);
      const at = placeOn(mesh.positions, mesh.triangles, { face, weights });
      const found = (at[0] - point[0]) ** 2 + (at[1] - point[1]) ** 2 + (at[2] - point[2]) ** 2;
      if (found < square) {
        square = found;
        best = { face, weights, distance: Math.sqrt(found) };
      }
    }
  }
  return best;
}

/** Where a place of a surface is, x y z in m. */
export function placeOn(
  positions: ArrayLike<number>,
  triangles: Uint32Array,
  { face, weights }: Pick<SurfacePlace, 'face' | 'weights'>,
): Vector3 {
  const at: [number, number, number] = [0, 0, 0];
  for (let corner = 0; corner < 3; corner++) {
    const from = triangles[face * 3 + corner]! * 3;
    for (let axis = 0; axis < 3; axis++) at[axis]! += positions[from + axis]! * weights[corner]!;
  }
  return at;
}

function boxSquare({ boxes }: BoxTree, node: number, point: Vector3): number {
  let square = 0;
  for (let axis = 0; axis < 3; axis++) {
    const low = boxes[node * 6 + axis]! - point[axis]!;
    const high = point[axis]! - boxes[node * 6 + 3 + axis]!;
    square += Math.max(0, low, high) ** 2;
  }
  return square;
}

/** How the corners of a face weigh in at its place that is nearest to a point. */
export function nearestWeights({ positions: p, triangles }: Mesh, face: number, q: Vector3): Vector3 {
  const [a, b, c] = [0, 1, 2].map((corner) => triangles[face * 3 + corner]! * 3) as [number, number, number];
  const from = (at: number, to: number): Vector3 => [p[to]! - p[at]!, p[to + 1]! - p[at + 1]!, p[to + 2]! - p[at + 2]!];
  const to = (at: number): Vector3 => [q[0] - p[at]!, q[1] - p[at + 1]!, q[2] - p[at + 2]!];
  const dot = (x: Vector3, y: Vector3) => x[0] * y[0] + x[1] * y[1] + x[2] * y[2];
  const [ab, ac, ap, bp, cp] = [from(a, b), from(a, c), to(a), to(b), to(c)];
  const [d1, d2] = [dot(ab, ap), dot(ac, ap)];
  if (d1 <= 0 && d2 <= 0) return [1, 0, 0];
  const [d3, d4] = [dot(ab, bp), dot(ac, bp)];
  if (d3 >= 0 && d4 <= d3) return [0, 1, 0];
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return between(d1 / (d1 - d3), 0, 1);
  const [d5, d6] = [dot(ab, cp), dot(ac, cp)];
  if (d6 >= 0 && d5 <= d6) return [0, 0, 1];
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return between(d2 / (d2 - d6), 0, 2);
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) return between((d4 - d3) / (d4 - d3 + (d5 - d6)), 1, 2);
  const all = va + vb + vc;
  return all > 0 ? [va / all, vb / all, vc / all] : [1, 0, 0];
}

function between(share: number, first: number, second: number): Vector3 {
  const weights: [number, number, number] = [0, 0, 0];
  weights[first] = 1 - share;
  weights[second] = share;
  return weights;
}
