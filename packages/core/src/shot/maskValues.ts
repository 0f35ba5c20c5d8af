import { pointCount, type Mesh } from '../mesh/mesh';
import { trackOf, valueAt, type Track } from './keys';
import { maskNumber, readMask, type Mask } from './masks';
import { rampValues } from './ramp';

/**
 * How much a mask is at a frame, 0 to 1 per point of the mesh. Points that a painted mask does not know, because it was made for
 * another mesh, are not scaled: 1.
 */
export function maskValues(
  cloth: { keys: readonly Track[]; masks: readonly Mask[] },
  mask: Mask,
  mesh: Mesh,
  frame: number,
): Float32Array<ArrayBuffer> {
  if (mask.ramp) return rampValues(mesh, mask.ramp, valueAt(cloth, maskNumber(mask.id, 'phase'), frame));
  const values = readMask(mask);
  return Float32Array.from({ length: pointCount(mesh) }, (_, point) => (values[point] ?? 255) / 255);
}

/** Whether a mask changes over the shot. */
export function isMaskKeyed(cloth: { keys: readonly Track[] }, { id, ramp }: Mask): boolean {
  return ramp !== null && trackOf(cloth, maskNumber(id, 'phase')) !== undefined;
}

/** The values as a painted mask has them, a byte a point. */
export function maskBytes(values: Float32Array): Uint8Array<ArrayBuffer> {
  return Uint8Array.from(values, (value) => Math.round(255 * value));
}
