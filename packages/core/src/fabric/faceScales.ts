import { quantitiesOf } from '../quantity/quantity';
import { fabricSchema, type FabricNumber } from './fabric';

/** The numbers of a fabric that a mask can scale place by place. */
export const SCALED_NUMBERS = Object.entries(quantitiesOf(fabricSchema)).flatMap(([name, { maskable }]) =>
  maskable ? [name] : [],
) as [FabricNumber, ...FabricNumber[]];

export type ScaledNumber = FabricNumber;

/** By how much numbers of a fabric are scaled face by face, 0 to 1; those that are missing are not. */
export type FaceScales = Partial<Record<ScaledNumber, Float32Array>>;

/**
 * The least that each is scaled to, else nothing: cloth has some weight and some hold everywhere. A cue may turn curl round.
 */
const LEAST: Partial<Record<ScaledNumber, number>> = {
  weight: 0.02,
  stretchWarp: 0.002,
  stretchWeft: 0.002,
  shear: 0.002,
  thickness: 0.1,
  squeeze: 0.01,
  curlWarp: -Infinity,
  curlWeft: -Infinity,
};

/** How much of a number a face has. */
export function scaleOf(scales: FaceScales | undefined, name: ScaledNumber, face: number): number {
  const scale = scales?.[name]?.[face];
  return scale === undefined ? 1 : Math.max(LEAST[name] ?? 0, scale);
}

/** The least that a number is scaled to anywhere. */
export function leastScale(scales: FaceScales | undefined, name: ScaledNumber): number {
  const given = scales?.[name];
  if (!given) return 1;
  return Math.max(
    LEAST[name] ?? 0,
    given.reduce((least, scale) => Math.min(least, scale), 1),
  );
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

/** Whether masks scale a number alike. */
export function sameValues(a: Float32Array | undefined, b: Float32Array | undefined): boolean {
  return a === b || (a !== undefined && a.length === b?.length && a.every((value, i) => value === b[i]));
}
