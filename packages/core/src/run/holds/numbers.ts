import type { Vector3 } from '../../math/vector';
import type { Hold, PinSet, Tie } from '../../shot/holdSchemas';
import { holdNumber } from '../../shot/keyable';
import { trackOf, valueAt } from '../../shot/keys';
import { isMaskKeyed, maskValues } from '../../shot/maskValues';
import { releaseOf } from '../../shot/release';
import type { Cloth } from '../../shot/schema';
import { shapeMesh } from '../../shot/shapes';
import type { HoldModel } from '../../solver/model';
import { liveTrackOf } from '../liveTrack';
import type { HoldContext } from './context';

// The numbers of holds over time: keyed, scaled by masks, changed by cues.

/** A keyed number of a hold at a time in s. */
export function numberAt(
  cloth: Cloth,
  hold: string,
  number: string,
  { frame, frameAt }: HoldContext,
): (time: number) => number {
  const name = holdNumber(hold, number);
  return (time) => valueAt(cloth, name, frameAt?.(time) ?? frame);
}

/** The same point by point, where cues change it: in the order of the hold's points. */
export function numbersAt(
  cloth: Cloth,
  { id, points }: Hold,
  number: string,
  context: HoldContext,
): (time: number) => (i: number) => number {
  const live = liveTrackOf(cloth, holdNumber(id, number));
  const at = numberAt(cloth, id, number, context);
  const { frame, frameAt } = context;
  return (time) => {
    if (live) return (i) => live.valueOf(points[i]!, frameAt?.(time) ?? frame);
    const value = at(time);
    return () => value;
  };
}

/** Three keyed numbers of a hold at a time in s. */
export function vectorAt(cloth: Cloth, hold: string, what: string, context: HoldContext): (time: number) => Vector3 {
  const axes = ['x', 'y', 'z'].map((axis) => numberAt(cloth, hold, `${what}.${axis}`, context));
  return (time) => [axes[0]!(time), axes[1]!(time), axes[2]!(time)];
}

/** Strengths of the points of a hold, scaled by its mask. */
export function strengths(
  cloth: Cloth,
  hold: PinSet | Tie,
  context: HoldContext,
): Pick<HoldModel, 'strengthsAt' | 'carried'> {
  const { id, points, mask } = hold;
  const scale = maskScale(cloth, mask, points, context);
  const strengthsAt = numbersAt(cloth, hold, 'strength', context);
  const keyed = trackOf(cloth, holdNumber(id, 'strength')) !== undefined;
  const freeAt = released(cloth, hold, context);
  const firm = !keyed && !scale.changes && !freeAt && strengthsAt(0)(0) === 1;
  const first = scale.at(0);
  return {
    strengthsAt: (time) => {
      const strength = strengthsAt(time);
      const free = freeAt?.(time);
      return scale.at(time).map((value, i) => (free?.[i] ? 0 : value * strength(i)));
    },
    carried: points.filter((_, i) => firm && first[i] === 1),
  };
}

/** Which points of a hold are free at a time in s; null where it never lets go. */
export function released(
  cloth: Cloth,
  hold: Hold,
  { assets, frame, frameAt }: HoldContext,
): ((time: number) => boolean[]) | null {
  const release = releaseOf(cloth, hold, shapeMesh(cloth.shape, assets));
  return release && ((time) => release(frameAt?.(time) ?? frame));
}

/** Per point of a hold, 0 to 1 at a time in s; a mask that is missing scales nothing. */
export function maskScale(
  cloth: Cloth,
  id: string | null,
  points: readonly number[],
  { assets, frame, frameAt }: HoldContext,
): { at: (time: number) => Float32Array; changes: boolean } {
  const mask = cloth.masks.find((candidate) => candidate.id === id);
  const mesh = shapeMesh(cloth.shape, assets);
  const find = (when: number) => {
    if (!mask) return new Float32Array(points.length).fill(1);
    const values = maskValues(cloth, mask, mesh, when);
    return Float32Array.from(points, (point) => values[point]!);
  };
  if (mask && frameAt && isMaskKeyed(cloth, mask)) return { at: (time) => find(frameAt(time)), changes: true };
  const constant = find(frame);
  return { at: () => constant, changes: false };
}
