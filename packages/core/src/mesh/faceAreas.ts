import type { Mesh } from './mesh';

/** Area of each face in m^2. */
export function faceAreas({ positions: p, triangles }: Mesh): Float64Array {
  const areas = new Float64Array(triangles.length / 3);
  for (let face = 0; face < areas.length; face++) {
    const [a, b, c] = [triangles[face * 3]! * 3, triangles[face * 3 + 1]! * 3, triangles[face * 3 + 2]! * 3];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    areas[face] = 0.5 * Math.sqrt((uy * vz - uz * vy) ** 2 + (uz * vx - ux * vz) ** 2 + (ux * vy - uy * vx) ** 2);
  }
  return areas;
}
