import type { Unit } from '../quantity/units';
import { UNITS } from '../quantity/units';
import type { CacheFormat, HandedFrame, HandedTake } from './formats/format';

/** What can be said of how cloth is handed over, whatever the format. */
export interface HandOptions {
  /** Frames from here to there; all of the take where they are missing. */
  first?: number;
  last?: number;
  /** Every so many frames, counted from the first. */
  step: number;
  unit: Extract<Unit, 'mm' | 'cm' | 'm' | 'in' | 'ft'>;
  up: 'y' | 'z';
}

export const HAND_DEFAULTS: HandOptions = { step: 1, unit: 'm', up: 'y' };
export const HAND_UNITS = ['m', 'cm', 'mm', 'in', 'ft'] as const;

/**
 * A take as the options have it: the frames that are wanted, in the unit and with the axis up that are wanted, where the format leaves that
 * open. Frames keep their numbers; where there is none of them, going through them throws a sentence for the artist.
 */
export function handTake(
  take: HandedTake,
  { first, last, step, ...space }: HandOptions,
  format: Pick<CacheFormat, 'ownSpace'>,
): HandedTake {
  async function* frames() {
    let from = first;
    let any = false;
    const end = last ?? Infinity;
    for await (const frame of take.frames) {
      from ??= frame.frame;
      if (frame.frame >= from && frame.frame <= end && (frame.frame - from) % step === 0) {
        any = true;
        yield handFrame(frame, space, format);
      }
      // What comes after is neither read nor computed.
      if (frame.frame >= end) break;
    }
    // Else a file without a frame would be written, and said to be.
    if (!any) throw new Error('None of the frames that are asked for are in the take.');
  }
  return { ...take, frames: frames(), ...spaceOf(space, format) };
}

/** One frame in the unit and with the axis up that are wanted. */
export function handFrame(
  frame: HandedFrame,
  { unit, up }: Pick<HandOptions, 'unit' | 'up'>,
  format: Pick<CacheFormat, 'ownSpace'>,
): HandedFrame {
  const scale = 1 / UNITS[unit].inSI;
  if (format.ownSpace || (scale === 1 && up === 'y')) return frame;
  return { ...frame, positions: frame.positions.map((own) => turned(own, scale, up)) };
}

/** What a format is told of the space that places are in. */
export function spaceOf(
  { unit, up }: Pick<HandOptions, 'unit' | 'up'>,
  format: Pick<CacheFormat, 'ownSpace'>,
): Pick<HandedTake, 'space'> {
  return format.ownSpace ? {} : { space: { metresPerUnit: UNITS[unit].inSI, up } };
}

/** z up is y up turned a quarter about x. */
function turned(own: Float32Array, scale: number, up: 'y' | 'z'): Float32Array {
  const out = new Float32Array(own.length);
  for (let i = 0; i < own.length; i += 3) {
    const [x, y, z] = [own[i]! * scale, own[i + 1]! * scale, own[i + 2]! * scale];
    out[i] = x;
    out[i + 1] = up === 'y' ? y : -z;
    out[i + 2] = up === 'y' ? z : y;
  }
  return out;
}
