import type { Mesh } from '../../mesh/mesh';
import type { HandedCloth } from './format';

/** Cloths at some places as one mesh, for formats that hold one only. Material coordinates are kept where all have them. */
export function asOneMesh(cloths: readonly HandedCloth[], positions: readonly Float32Array[]): Mesh {
  const starts = positions.map((_, i) => positions.slice(0, i).reduce((sum, own) => sum + own.length / 3, 0));
  const materials = cloths.map(({ mesh }) => mesh.material);
  return {
    positions: joined(positions),
    triangles: Uint32Array.from(
      cloths.flatMap(({ mesh }, i) => Array.from(mesh.triangles, (point) => point + starts[i]!)),
    ),
    ...(cloths.some(({ mesh }) => mesh.sewn) && {
      sewn: Uint32Array.from(
        cloths.flatMap(({ mesh }, i) =>
          Array.from({ length: positions[i]!.length / 3 }, (_, point) => (mesh.sewn?.[point] ?? point) + starts[i]!),
        ),
      ),
    }),
    ...(materials.every((material) => material !== undefined) && { material: joined(materials) }),
  };
}

function joined(arrays: readonly Float32Array[]): Float32Array {
  const all = new Float32Array(arrays.reduce((sum, own) => sum + own.length, 0));
  let at = 0;
  for (const own of arrays) {
    all.set(own, at);
    at += own.length;
  }
  return all;
}
