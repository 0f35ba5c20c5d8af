import { FINISH_STEPS, type FinishEntry } from '../finish/steps';
import { finishAt, finishNumber } from './finishAt';
import { trackOf } from './keys';
import type { Cloth } from './things';

/** So near to a whole frame it is that one: sums of speeds are not exact. */
const WHOLE = 1e-6;

/** The steps of a cloth that let its take go by otherwise than it was baked, in the order of the list. */
export function retimingSteps({ finish }: Pick<Cloth, 'finish'>): FinishEntry[] {
  return finish.filter(({ on, step }) => on && FINISH_STEPS[step.kind].speed !== undefined);
}

/**
 * Which frame of its take a cloth shows at a frame, not always whole; `firstFrame` is that of the shot, from which on it is retimed. Without
 * such a step it is the frame itself.
 */
export function sourceFrame(cloth: Cloth, firstFrame: number, frame: number): number {
  if (frame <= firstFrame) return frame;
  return retimingSteps(cloth).reduceRight((at, entry) => {
    const source = firstFrame + gone(cloth, entry, firstFrame, at);
    return Math.abs(source - Math.round(source)) < WHOLE ? Math.round(source) : source;
  }, frame);
}

/**
 * The last frame at which a take whose last frame is given still moves: that at which the slowest cloth has come to its end. Cloth that is
 * slowed to a standstill counts to the end of the take.
 */
export function lastShownFrame(cloths: readonly Cloth[], firstFrame: number, lastFrame: number): number {
  return cloths.reduce((latest, cloth) => {
    if (retimingSteps(cloth).length === 0) return Math.max(latest, lastFrame);
    let [frame, source] = [firstFrame, firstFrame as number];
    while (source < lastFrame) {
      const next = sourceFrame(cloth, firstFrame, frame + 1);
      if (next <= source && frame > lastFrame) return Math.max(latest, lastFrame);
      [frame, source] = [frame + 1, next];
    }
    return Math.max(latest, frame);
  }, firstFrame);
}

/** How many frames of what a step is given go by from one frame to another: the sum of its speed, which may be keyed. */
function gone(cloth: Cloth, entry: FinishEntry, from: number, to: number): number {
  const speedAt = (frame: number) => {
    const { step } = finishAt(cloth, frame).find(({ id }) => id === entry.id) ?? entry;
    return FINISH_STEPS[step.kind].speed!(step as never);
  };
  if (!trackOf(cloth, finishNumber(entry.id, 'speed'))) return (to - from) * speedAt(from);
  let sum = 0;
  for (let frame = from; frame < to; frame++) {
    const length = Math.min(1, to - frame);
    sum += length * speedAt(frame + length / 2);
  }
  return sum;
}
