/** The numbers of a fabric that a mask can scale place by place. */
export const SCALED_NUMBERS = [
  'weight',
  'stretchWarp',
  'stretchWeft',
  'shear',
  'bendWarp',
  'bendWeft',
  'damping',
  'restWarp',
  'restWeft',
] as const;

export type ScaledNumber = (typeof SCALED_NUMBERS)[number];

/** By how much numbers of a fabric are scaled face by face, 0 to 1; those that are missing are not. */
export type FaceScales = Partial<Record<ScaledNumber, Float32Array>>;

/** Nothing of this is scaled down to nothing: cloth has some weight and some hold everywhere. */
const LEAST: Partial<Record<ScaledNumber, number>> = {
  weight: 0.02,
  stretchWarp: 0.002,
  stretchWeft: 0.002,
  shear: 0.002,
};

/** How much of a number a face has. */
export function scaleOf(scales: FaceScales | undefined, name: ScaledNumber, face: number): number {
  const scale = scales?.[name]?.[face];
  return scale === undefined ? 1 : Math.max(LEAST[name] ?? 0, scale);
}

/** A rest size at a face: a mask scales how far it is from 100 %. */
export function restSizeOf(
  size: number,
  scales: FaceScales | undefined,
  name: 'restWarp' | 'restWeft',
  face: number,
): number {
  return 1 + (size - 1) * scaleOf(scales, name, face);
}
