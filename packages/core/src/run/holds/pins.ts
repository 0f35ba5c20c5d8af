import { applyPose, composePoses, invertPose, poseOf, STILL, type Pose } from '../../math/pose';
import type { Vector3 } from '../../math/vector';
import type { PinSet } from '../../shot/holdSchemas';
import { pinMotion } from '../../shot/holds';
import { holdNumber } from '../../shot/keyable';
import { trackOf } from '../../shot/keys';
import { poseAt } from '../../shot/placement';
import type { Cloth } from '../../shot/schema';
import type { HoldModel } from '../../solver/model';
import { thingOf, type HoldContext } from './context';
import { strengths, vectorAt } from './numbers';
import { basePlaces, remembered } from './places';

/** Points that do not move and never give: of pin sets at full strength that neither ride nor are moved. */
export function stillPins(cloth: Cloth): number[] {
  const points = cloth.pinSets.filter((set) => staysPut(cloth, set)).flatMap((set) => set.points);
  return [...new Set(points)].sort((a, b) => a - b);
}

/** Whether a pin set neither moves nor ever gives. */
export function staysPut(cloth: Cloth, set: PinSet): boolean {
  const keyed = trackOf(cloth, holdNumber(set.id, 'strength')) !== undefined;
  const firm = set.strength === 1 && set.mask === null && set.release === null && !keyed;
  return firm && set.rides === null && pinMotion(cloth, set) === 'stays';
}

/** Where a pin set is as a whole at a time in s. */
export interface PinSetPose {
  /** Its middle and turn in the world. */
  pose: Pose;
  /** How what it rides has carried it since the start. */
  carried: Pose;
  /** Its middle where the cloth starts, in m. */
  middle: Vector3;
}

/** @throws CompileError when what it rides is gone */
export function pinSetPose(cloth: Cloth, set: PinSet, context: HoldContext): (time: number) => PinSetPose {
  const { shot, frame, frameAt } = context;
  const base = basePlaces(cloth, set, context);
  const first = middleOf(base(0));
  const own = set.rides === cloth.id;
  const carrier = set.rides === null || own ? null : thingOf(context, set.rides, cloth);
  const carriedBack = carrier ? invertPose(poseAt(shot, carrier, frame)) : STILL;
  const [moveAt, turnAt] = ['move', 'turn'].map((what) => vectorAt(cloth, set.id, what, context));
  return (time) => {
    const carried = carrier ? composePoses(poseAt(shot, carrier, frameAt?.(time) ?? frame), carriedBack) : STILL;
    const middle = own ? middleOf(base(time)) : first;
    const move = moveAt!(time);
    const center: Vector3 = [middle[0] + move[0], middle[1] + move[1], middle[2] + move[2]];
    return { pose: composePoses(carried, poseOf(center, turnAt!(time))), carried, middle };
  };
}

function middleOf(places: Float32Array): Vector3 {
  const count = places.length / 3;
  const sums: [number, number, number] = [0, 0, 0];
  places.forEach((value, i) => (sums[i % 3]! += value));
  return [sums[0] / count, sums[1] / count, sums[2] / count];
}

/** Points that go where their pin set goes. */
export function pinModel(cloth: Cloth, set: PinSet, context: HoldContext): HoldModel {
  const base = basePlaces(cloth, set, context);
  const setPoseAt = pinSetPose(cloth, set, context);
  const gatherAt = vectorAt(cloth, set.id, 'gather', context);
  const placesAt = (time: number) => {
    const { pose, middle } = setPoseAt(time);
    const gather = gatherAt(time);
    const places = base(time);
    const all = new Float32Array(set.points.length * 3);
    set.points.forEach((_, i) => {
      const off = [0, 1, 2].map((axis) => (places[i * 3 + axis]! - middle[axis]!) * gather[axis]!);
      all.set(applyPose(pose, off as unknown as Vector3), i * 3);
    });
    return all;
  };
  return { points: set.points, placesAt: remembered(placesAt), ...strengths(cloth, set, context) };
}
