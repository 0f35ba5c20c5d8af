import type { Mesh } from '../mesh/mesh';
import type { Hold } from './holdSchemas';
import { holdNumber } from './keyable';
import { valueAt } from './keys';
import { isMaskKeyed, maskValues } from './maskValues';
import type { Cloth } from './schema';

// Holds that let go point by point: a mask says in which order, a number that can be keyed how far it has come.

/** Whether a point whose mask is worth so much is free when so much is released. */
export function isReleased(value: number, released: number): boolean {
  return released >= 1 || value < released;
}

/** Which points of a hold are free at a frame, in the order of its points; null where it never lets go. */
export function releasedAt(cloth: Cloth, hold: Hold, mesh: Mesh, frame: number): boolean[] | null {
  const order = releaseOrder(cloth, hold, mesh);
  if (!order) return null;
  const released = valueAt(cloth, holdNumber(hold.id, 'released'), frame);
  const values = order(frame);
  return hold.points.map((_, i) => isReleased(values[i]!, released));
}

/** How much the release mask of a hold is at its points at a frame; null where it never lets go. */
function releaseOrder(cloth: Cloth, hold: Hold, mesh: Mesh): ((frame: number) => readonly number[]) | null {
  const mask = cloth.masks.find(({ id }) => id === hold.release);
  if (!mask) return null;
  const find = (frame: number) => {
    const values = maskValues(cloth, mask, mesh, frame);
    return hold.points.map((point) => values[point]!);
  };
  if (isMaskKeyed(cloth, mask)) return find;
  const constant = find(0);
  return () => constant;
}

/** What is known of frozen documents: it is asked for again at every picture. */
const known = new WeakMap<Hold, { cloth: Cloth; frames: number[] | null }>();

/**
 * The frame at which each point of a hold becomes free for good, in the order of its points; Infinity for those that never do. Null where it
 * never lets go.
 */
export function releaseFrames(
  cloth: Cloth,
  hold: Hold,
  mesh: Mesh,
  { firstFrame, lastFrame }: { firstFrame: number; lastFrame: number },
): number[] | null {
  const before = known.get(hold);
  if (before?.cloth === cloth && Object.isFrozen(cloth)) return before.frames;
  const order = releaseOrder(cloth, hold, mesh);
  let frames: number[] | null = null;
  if (order) {
    frames = hold.points.map(() => lastFrame + 1);
    const number = holdNumber(hold.id, 'released');
    for (let frame = lastFrame; frame >= firstFrame; frame--) {
      const [values, released] = [order(frame), valueAt(cloth, number, frame)];
      for (let i = 0; i < frames.length; i++) {
        // Free for good: at this frame, and at all after it.
        if (frames[i] === frame + 1 && isReleased(values[i]!, released)) frames[i] = frame;
      }
    }
    frames = frames.map((frame) => (frame > lastFrame ? Infinity : frame));
  }
  known.set(hold, { cloth, frames });
  return frames;
}
