import { Vector3 } from 'three';
import { ConvexHull } from 'three/addons/math/ConvexHull.js';
import type { Mesh } from '../mesh';
import { ball } from '../shapes/ball';

/** From how many directions a mesh is looked at: 162, evenly spread. */
const DIRECTIONS = ball({ radius: 1, detail: 2 }).positions;

/** The convex hull of the points of a mesh that stick out farthest in 162 directions: at most 320 faces. */
export function coarseHull({ positions }: Mesh): Mesh {
  const chosen = new Set<number>();
  for (let d = 0; d < DIRECTIONS.length; d += 3) {
    const [x, y, z] = [DIRECTIONS[d]!, DIRECTIONS[d + 1]!, DIRECTIONS[d + 2]!];
    let [best, most] = [0, -Infinity];
    for (let i = 0; i < positions.length; i += 3) {
      const out = positions[i]! * x + positions[i + 1]! * y + positions[i + 2]! * z;
      if (out > most) [best, most] = [i, out];
    }
    chosen.add(best);
  }
  const order = [...chosen].sort((a, b) => a - b);
  const points = order.map((at) => new Vector3(positions[at], positions[at + 1], positions[at + 2]));
  const numbers = new Map(points.map((point, i) => [point, i]));
  const triangles: number[] = [];
  for (const face of new ConvexHull().setFromPoints(points).faces) {
    const [a, b, c] = [face.edge, face.edge.next, face.edge.prev].map((edge) => numbers.get(edge.head().point)!);
    triangles.push(a!, b!, c!);
  }
  return {
    positions: new Float32Array(points.flatMap((point) => point.toArray())),
    triangles: new Uint32Array(triangles),
  };
}
