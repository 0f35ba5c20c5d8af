import { SCALED_NUMBERS, type FaceScales } from '../fabric/faceScales';
import { maskValues } from '../shot/maskValues';
import type { Cloth } from '../shot/schema';
import { shapeMesh, type Assets } from '../shot/shapes';

/**
 * The masks on the numbers of a cloth's fabric at a frame, face by face: the mean of the three corners. Masks that are missing scale
 * nothing.
 */
export function faceScales(cloth: Cloth, assets: Assets, frame: number): FaceScales {
  const mesh = shapeMesh(cloth.shape, assets);
  const { triangles } = mesh;
  const byMask = new Map<string, Float32Array>();
  const scales: FaceScales = {};
  for (const name of SCALED_NUMBERS) {
    const mask = cloth.masks.find(({ id }) => id === cloth.fabricMasks[name]);
    if (!mask) continue;
    if (!byMask.has(mask.id)) byMask.set(mask.id, meanOfCorners(triangles, maskValues(cloth, mask, mesh, frame)));
    scales[name] = byMask.get(mask.id)!;
  }
  return scales;
}

function meanOfCorners(triangles: Uint32Array, values: Float32Array): Float32Array {
  const at = (corner: number) => values[triangles[corner]!]!;
  return Float32Array.from({ length: triangles.length / 3 }, (_, face) => {
    return (at(face * 3) + at(face * 3 + 1) + at(face * 3 + 2)) / 3;
  });
}
