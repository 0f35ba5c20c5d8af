import type { NumberedFrame } from '../../mesh/movingMesh';

/** Which frames are missing, in words: as many as are known to be, else nothing where the steps between them are all the same. */
export function missingNote(name: string, frames: readonly NumberedFrame[], known?: number): string | null {
  const steps = frames.slice(1).map(({ number }, i) => number - frames[i]!.number);
  if (known === undefined && steps.every((step) => step === steps[0])) return null;
  const missing = known ?? steps.reduce((sum, step) => sum + step - 1, 0);
  return `${missing === 1 ? 'One frame' : `${missing} frames`} of “${name}” ${missing === 1 ? 'is' : 'are'} missing between the first and the last; what lies between is filled in evenly.`;
}
