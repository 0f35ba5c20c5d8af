import type { Mesh } from './mesh';
import { pointNormals } from './normals';

/**
 * Some points of a mesh drawn in under its surface, in the places that it has and in those that its animation starts from.
 *
 * @param depth in m
 */
export function drawIn(mesh: Mesh, points: readonly number[], depth: number): Mesh {
  const moved = (positions: Float32Array, by: number) => {
    const normals = pointNormals(positions, mesh.triangles);
    const all = positions.slice();
    for (const point of points) for (let k = 0; k < 3; k++) all[point * 3 + k]! -= by * normals[point * 3 + k]!;
    return all;
  };
  const { positions, motion } = mesh;
  // What bones carry has a scale of its own.
  const scale = motion ? sizeOf(motion.bind) / Math.max(sizeOf(positions), 1e-12) : 1;
  return {
    ...mesh,
    positions: moved(positions, depth),
    ...(motion && { motion: { ...motion, bind: moved(motion.bind, depth * scale) } }),
  };
}

/** How far points lie apart, as the root of their mean square distance from their middle. */
function sizeOf(places: Float32Array): number {
  const count = places.length / 3;
  const sums = [0, 0, 0];
  places.forEach((value, i) => (sums[i % 3]! += value / count));
  let square = 0;
  places.forEach((value, i) => (square += (value - sums[i % 3]!) ** 2));
  return Math.sqrt(square / count);
}
