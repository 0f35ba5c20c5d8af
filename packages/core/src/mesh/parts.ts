import { pointCount, type Mesh } from './mesh';
import { keepPoints } from './keepPoints';
import { wholePieces } from '../select/wholePieces';

/** The meshes that a mesh falls into, each of what hangs together by edges, in the order of their first points; points without faces are left out. */
export function parts(mesh: Mesh): Mesh[] {
  const used = new Uint8Array(pointCount(mesh));
  for (const point of mesh.triangles) used[point] = 1;
  const of = new Int32Array(pointCount(mesh)).fill(-1);
  const points: number[][] = [];
  for (let point = 0; point < of.length; point++) {
    if (!used[point] || of[point] !== -1) continue;
    const own = wholePieces(mesh, [point]);
    for (const one of own) of[one] = points.length;
    points.push(own);
  }
  const place = new Uint32Array(of.length);
  for (const own of points) own.forEach((point, i) => (place[point] = i));
  const triangles = points.map(() => [] as number[]);
  for (const point of mesh.triangles) triangles[of[point]!]!.push(place[point]!);
  return points.map((own, i) => keepPoints(mesh, own, Uint32Array.from(triangles[i]!)));
}
