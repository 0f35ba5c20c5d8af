import { FINISH_STEPS, type FinishEntry } from '../finish/steps';
import { finishNumber } from './finishAt';
import { trackOf, valueAt } from './keys';
import type { Cloth } from './things';

/** So near to a whole frame it is that one: sums of speeds are not exact. */
const WHOLE = 1e-6;
/** What has not come to its end after so many frames more stands still. */
const LONGEST = 2 ** 16;

/** The steps of a cloth that let its take go by otherwise than it was baked, in the order of the list. */
export function retimingSteps({ finish }: Pick<Cloth, 'finish'>): FinishEntry[] {
  return finish.filter(({ on, step }) => on && FINISH_STEPS[step.kind].retimes === true);
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
    const isThere = (frame: number) => sourceFrame(cloth, firstFrame, frame) >= lastFrame;
    if (retimingSteps(cloth).length === 0) return Math.max(latest, lastFrame);
    let [early, late] = [firstFrame - 1, firstFrame];
    for (let step = 1; !isThere(late); step *= 2) {
      if (step > LONGEST) return Math.max(latest, lastFrame);
      [early, late] = [late, late + step];
    }
    while (late - early > 1) {
      const middle = Math.floor((early + late) / 2);
      if (isThere(middle)) late = middle;
      else early = middle;
    }
    return Math.max(latest, late);
  }, firstFrame);
}

/** How many frames of what a step is given go by from one frame to another: the sum of its speed, which may be keyed. */
function gone(cloth: Cloth, { id, step }: FinishEntry, from: number, to: number): number {
  const number = finishNumber(id, 'speed');
  if (!trackOf(cloth, number)) return (to - from) * (step as unknown as { speed: number }).speed;
  let sum = 0;
  for (let frame = from; frame < to; frame++) {
    const length = Math.min(1, to - frame);
    sum += length * valueAt(cloth, number, frame + length / 2);
  }
  return sum;
}
