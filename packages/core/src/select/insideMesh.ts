import { meshBounds } from '../mesh/bounds';
import type { Mesh } from '../mesh/mesh';

/**
 * Which of some places, x y z in m, are inside a mesh: those around which it turns more than half (generalised winding numbers, Jacobson
 * et al. 2013), so that small gaps do no harm.
 */
export function insideMesh(mesh: Mesh, places: ArrayLike<number>): number[] {
  const box = meshBounds(mesh);
  if (!box) return [];
  const inside: number[] = [];
  for (let i = 0; i < places.length / 3; i++) {
    const place = [places[i * 3]!, places[i * 3 + 1]!, places[i * 3 + 2]!] as const;
    if (place.some((value, axis) => value < box.low[axis]! || value > box.high[axis]!)) continue;
    if (winding(mesh, place) > 0.5) inside.push(i);
  }
  return inside;
}

/** Sum of the solid angles of the faces, as a share of the whole (Van Oosterom and Strackee 1983). */
function winding({ positions: p, triangles }: Mesh, [x, y, z]: readonly [number, number, number]): number {
  let sum = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
    const [ax, ay, az] = [p[a]! - x, p[a + 1]! - y, p[a + 2]! - z];
    const [bx, by, bz] = [p[b]! - x, p[b + 1]! - y, p[b + 2]! - z];
    const [cx, cy, cz] = [p[c]! - x, p[c + 1]! - y, p[c + 2]! - z];
    const [la, lb, lc] = [Math.hypot(ax, ay, az), Math.hypot(bx, by, bz), Math.hypot(cx, cy, cz)];
    const triple = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
    const rest =
      la * lb * lc +
      (ax * bx + ay * by + az * bz) * lc +
      (bx * cx + by * cy + bz * cz) * la +
      (cx * ax + cy * ay + cz * az) * lb;
    sum += 2 * Math.atan2(triple, rest);
  }
  return sum / (4 * Math.PI);
}
