import type { Mesh } from '../mesh/mesh';
import type { Hold } from './holdSchemas';
import { holdNumber } from './keyable';
import { valueAt } from './keys';
import { isMaskKeyed, maskValues } from './maskValues';
import type { Cloth, Shot } from './schema';

// Holds that let go point by point: a mask says in which order, a number that can be keyed how far it has come.

/** Whether a point whose mask is worth so much is free when so much is released. */
export function isReleased(value: number, released: number): boolean {
  return released >= 1 || value < released;
}

/** Which points of a hold are free at a frame, in the order of its points; null for a hold that never lets go. */
export function releaseOf(cloth: Cloth, hold: Hold, mesh: Mesh): ((frame: number) => boolean[]) | null {
  const mask = cloth.masks.find(({ id }) => id === hold.release);
  if (!mask) return null;
  const find = (frame: number) => {
    const values = maskValues(cloth, mask, mesh, frame);
    return hold.points.map((point) => values[point]!);
  };
  const constant = isMaskKeyed(cloth, mask) ? null : find(0);
  const number = holdNumber(hold.id, 'released');
  return (frame) => {
    const released = valueAt(cloth, number, frame);
    return (constant ?? find(frame)).map((value) => isReleased(value, released));
  };
}

type Range = Pick<Shot, 'firstFrame' | 'lastFrame'>;

/** What is known of frozen documents: it is asked for again at every picture. */
const known = new WeakMap<Hold, { cloth: Cloth; mesh: Mesh; range: Range; frames: number[] | null }>();

/**
 * The frame at which each point of a hold becomes free for good, in the order of its points; Infinity for those that never do. Null where it
 * never lets go.
 */
export function releaseFrames(cloth: Cloth, hold: Hold, mesh: Mesh, range: Range): number[] | null {
  const { firstFrame, lastFrame } = range;
  const before = known.get(hold);
  const same = before?.range.firstFrame === firstFrame && before.range.lastFrame === lastFrame;
  if (same && before.cloth === cloth && before.mesh === mesh && Object.isFrozen(cloth)) return before.frames;
  const release = releaseOf(cloth, hold, mesh);
  const frames = release && framesOf(release, hold.points.length, range);
  known.set(hold, { cloth, mesh, range: { firstFrame, lastFrame }, frames });
  return frames;
}

function framesOf(release: (frame: number) => boolean[], count: number, { firstFrame, lastFrame }: Range): number[] {
  const frames = Array<number>(count).fill(lastFrame + 1);
  for (let frame = lastFrame; frame >= firstFrame; frame--) {
    release(frame).forEach((free, i) => {
      // Free for good: at this frame, and at all after it.
      if (free && frames[i] === frame + 1) frames[i] = frame;
    });
  }
  return frames.map((frame) => (frame > lastFrame ? Infinity : frame));
}
