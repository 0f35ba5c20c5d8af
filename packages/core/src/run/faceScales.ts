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

/**
 * Which faces of a cloth pass through it at a frame: where the mask on its self-contact is below a half. A byte a face, 1 where they do;
 * nothing without such a mask.
 */
export function passingFaces(cloth: Cloth, assets: Assets, frame: number): Uint8Array | undefined {
  const mask = cloth.masks.find(({ id }) => id === cloth.selfContact.mask);
  if (!mask) return undefined;
  const mesh = shapeMesh(cloth.shape, assets);
  return Uint8Array.from(meanOfCorners(mesh.triangles, maskValues(cloth, mask, mesh, frame)), (value) =>
    value < 0.5 ? 1 : 0,
  );
}

function meanOfCorners(triangles: Uint32Array, values: Float32Array): Float32Array {
  const at = (corner: number) => values[triangles[corner]!]!;
  return Float32Array.from({ length: triangles.length / 3 }, (_, face) => {
    return (at(face * 3) + at(face * 3 + 1) + at(face * 3 + 2)) / 3;
  });
}
