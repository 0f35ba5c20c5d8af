import { addEddies, eddyWaves, type EddyNumbers } from '../air/eddies';
import { AIR_KINDS } from '../air/kinds';
import { applyPose } from '../math/pose';
import { apply, type Vector3 } from '../math/vector';
import { airNumbersAt } from '../shot/airThings';
import { poseAt } from '../shot/placement';
import type { AirThing, Shot } from '../shot/schema';

/** Weight in kg/m² of the cloth by which pulls are shown. */
const SHOWN_WEIGHT = 0.2;

/** What air does, to be drawn: in the world, m and m/s (m/s² for what pulls). */
export interface AirArrows {
  arrows: { place: Vector3; along: Vector3 }[];
  /** Lines around its reach: places two by two. */
  outline: Vector3[];
}

/** How air is drawn at a frame: steady, but for its eddies. */
export function airArrows(shot: Shot, thing: AirThing, frame: number): AirArrows {
  const kind = AIR_KINDS[thing.air.kind];
  const numbers = airNumbersAt(thing, frame);
  const pose = poseAt(shot, thing, frame);
  const flow = kind.flow?.(numbers);
  const pull = kind.pull?.(numbers);
  const eddies = kind.eddies?.(numbers);
  const waves = eddies && eddyWaves(numbers as unknown as EddyNumbers);
  const time = (frame - shot.firstFrame) / shot.frameRate;
  const own = new Float64Array(4);
  const arrows = kind.shownAt(numbers).map((local) => {
    own.fill(0);
    const place = applyPose(pose, local);
    flow?.(...local, own);
    pull?.(...local, SHOWN_WEIGHT, own);
    const turned = apply(pose.rotation, [own[0]!, own[1]!, own[2]!]);
    if (!waves) return { place, along: turned };
    own.fill(0);
    addEddies(waves, ...place, time, eddies!(...local), own);
    return { place, along: [own[0]!, own[1]!, own[2]!] as Vector3 };
  });
  return { arrows, outline: kind.outline(numbers).map((local) => applyPose(pose, local)) };
}
