import { faceAreas } from './faceAreas';
import { keepPoints } from './keepPoints';
import { pointCount, type Mesh } from './mesh';

/** Faces smaller than this in m^2 are taken as having no area. */
const LEAST_AREA = 1e-14;

/** Leaves out faces without area, and points that no face uses. */
export function dropEmpty(mesh: Mesh): { mesh: Mesh; faces: number; points: number } {
  const areas = faceAreas(mesh);
  const count = pointCount(mesh);
  const to = new Int32Array(count).fill(-1);
  const kept: number[] = [];
  const triangles: number[] = [];
  for (let face = 0; face < areas.length; face++) {
    if (!(areas[face]! > LEAST_AREA)) continue;
    for (let corner = 0; corner < 3; corner++) {
      const point = mesh.triangles[face * 3 + corner]!;
      if (to[point]! < 0) {
        to[point] = kept.length;
        kept.push(point);
      }
      triangles.push(to[point]!);
    }
  }
  const faces = areas.length - triangles.length / 3;
  const points = count - kept.length;
  if (faces === 0 && points === 0) return { mesh, faces, points };
  return { mesh: keepPoints(mesh, kept, new Uint32Array(triangles)), faces, points };
}
