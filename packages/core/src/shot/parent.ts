import { anglesOf, composePoses, invertPose, type Pose } from '../math/pose';
import { tidyContacts } from './contacts';
import { tidy } from '../math/tidy';
import type { Track } from './keys';
import { PLACE_NUMBERS } from './keyable';
import { carrierPose, placementAt, poseAt } from './placement';
import { ShotError } from './readShot';
import type { Shot, Thing } from './schema';

/**
 * Lets a thing ride another one (null for none) without moving it: its place and turn are given anew, in the new carrier's
 * axes, at the first frame and at each of its keys. For recipes of `edit`.
 * @throws ShotError when it would ride itself
 */
export function setParent(draft: Shot, id: string, parent: string | null): void {
  const thing = draft.things.find((candidate) => candidate.id === id);
  if (!thing || thing.parent === parent) return;
  const carrier = draft.things.find((candidate) => candidate.id === parent);
  if (parent !== null) {
    if (!carrier) throw new ShotError('Nothing was changed: the thing to ride is no longer in the shot.');
    for (let at: Thing | undefined = carrier; at; at = draft.things.find((other) => other.id === at!.parent)) {
      if (at.id !== id) continue;
      throw new ShotError(
        carrier.id === id
          ? `Nothing was changed: “${thing.name}” cannot ride itself.`
          : `Nothing was changed: “${carrier.name}” rides on “${thing.name}” already, so “${thing.name}” cannot ride on it.`,
      );
    }
    if (carrier.role !== 'mount' && 'shape' in carrier && carrier.shape.kind === 'ground') {
      throw new ShotError('Nothing was changed: the ground carries nothing; it never moves.');
    }
  }
  const frames = [...new Set(placeTracks(thing).flatMap(({ knots }) => knots.map(({ frame }) => frame)))].sort(
    (a, b) => a - b,
  );
  const poses = frames.map((frame) => poseAt(draft, thing, frame));
  const still = poseAt(draft, thing, draft.firstFrame);
  const eases = new Map(
    placeTracks(thing).flatMap(({ knots }) => knots.map(({ frame, ease }) => [frame, ease] as const)),
  );
  thing.parent = parent;
  const inCarrier = (pose: Pose, frame: number) => composePoses(invertPose(carrierPose(draft, thing, frame)), pose);
  let near = thing.rotation;
  const own = (pose: Pose, frame: number) => {
    const local = inCarrier(pose, frame);
    const angles = anglesOf(local.rotation, near);
    near = [...angles];
    return [...local.center, ...angles].map(tidy);
  };
  const values = frames.map((frame, i) => own(poses[i]!, frame));
  thing.keys = thing.keys.filter(({ number }) => !isPlace(number));
  near = [...placementAt(thing, draft.firstFrame).rotation];
  const constant = own(still, draft.firstFrame);
  thing.position = [constant[0]!, constant[1]!, constant[2]!];
  thing.rotation = [constant[3]!, constant[4]!, constant[5]!];
  PLACE_NUMBERS.forEach((number, axis) => {
    const knots = frames.map((frame, i) => ({ frame, value: values[i]![axis]!, ease: eases.get(frame)! }));
    if (knots.some(({ value }) => Math.abs(value - knots[0]!.value) > 1e-6)) thing.keys.push({ number, knots });
    else if (knots.length > 0) setAxis(thing, axis, knots[0]!.value);
  });
}

/** Takes a thing out of the shot; what rides it stays where it is and rides what this one rode. */
export function removeThing(draft: Shot, id: string): void {
  const thing = draft.things.find((candidate) => candidate.id === id);
  if (!thing) return;
  for (const rider of draft.things) if (rider.parent === id) setParent(draft, rider.id, thing.parent);
  draft.things = draft.things.filter((candidate) => candidate.id !== id);
  tidyContacts(draft);
}

function setAxis(thing: Thing, axis: number, value: number): void {
  if (axis < 3) thing.position[axis] = value;
  else thing.rotation[axis - 3] = value;
}

function placeTracks(thing: Thing): Track[] {
  return thing.keys.filter(({ number }) => isPlace(number));
}

function isPlace(number: string): boolean {
  return (PLACE_NUMBERS as readonly string[]).includes(number);
}
