import { SCALED_NUMBERS, type FaceScales } from '../fabric/faceScales';
import { readMask } from '../shot/masks';
import type { Cloth } from '../shot/schema';
import { shapeMesh, type Assets } from '../shot/shapes';

/** The masks on the numbers of a cloth's fabric, face by face: the mean of the three corners. Masks that are missing scale nothing. */
export function faceScales(cloth: Cloth, assets: Assets): FaceScales {
  const { triangles } = shapeMesh(cloth.shape, assets);
  const scales: FaceScales = {};
  for (const name of SCALED_NUMBERS) {
    const mask = cloth.masks.find(({ id }) => id === cloth.fabricMasks[name]);
    if (!mask) continue;
    const values = readMask(mask);
    const at = (corner: number) => values[triangles[corner]!] ?? 255;
    scales[name] = Float32Array.from({ length: triangles.length / 3 }, (_, face) => {
      return (at(face * 3) + at(face * 3 + 1) + at(face * 3 + 2)) / 765;
    });
  }
  return scales;
}
