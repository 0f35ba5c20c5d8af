import type { Mesh } from '../../mesh/mesh';
import type { HandedCloth } from './format';

/** Cloths at some places as one mesh, for formats that hold one only. Material coordinates are kept where all have them. */
export function asOneMesh(cloths: readonly HandedCloth[], positions: readonly Float32Array[]): Mesh {
  const starts = positions.map((_, i) => positions.slice(0, i).reduce((sum, own) => sum + own.length / 3, 0));
  const materials = cloths.map(({ mesh }) => mesh.material);
  const sewn = cloths.map(
    ({ mesh }, i) => mesh.sewn ?? Uint32Array.from({ length: positions[i]!.length / 3 }, (_, p) => p),
  );
  return {
    positions: joined(Float32Array, positions),
    triangles: joined(
      Uint32Array,
      cloths.map(({ mesh }) => mesh.triangles),
      starts,
    ),
    ...(cloths.some(({ mesh }) => mesh.sewn) && { sewn: joined(Uint32Array, sewn, starts) }),
    ...(materials.every((material) => material !== undefined) && { material: joined(Float32Array, materials) }),
  };
}

/** Arrays one after the other, each with what belongs to it added to its numbers. */
function joined<T extends Float32Array | Uint32Array>(
  Kind: new (length: number) => T,
  arrays: readonly T[],
  added: readonly number[] = [],
): T {
  const all = new Kind(arrays.reduce((sum, own) => sum + own.length, 0));
  let at = 0;
  for (const [i, own] of arrays.entries()) {
    all.set(own, at);
    const more = added[i] ?? 0;
    for (let k = at; more > 0 && k < at + own.length; k++) all[k]! += more;
    at += own.length;
  }
  return all;
}
