import { composePoses, poseOf, STILL, type Pose } from '../math/pose';
import type { Vector3 } from '../math/vector';
import { trackValue } from './keys';
import type { Thing } from './things';

// Where things are: their own place and turn, which may be keyed, in the axes of what they ride.

/** Place and turn of a thing at a frame, in the axes of what it rides. */
export function placementAt(
  thing: Pick<Thing, 'position' | 'rotation' | 'keys'>,
  frame: number,
): {
  position: Vector3;
  rotation: Vector3;
} {
  if (thing.keys.length === 0) return { position: thing.position, rotation: thing.rotation };
  const of = (what: 'position' | 'rotation'): Vector3 => {
    const values = ['x', 'y', 'z'].map((axis, i) => {
      const track = thing.keys.find(({ number }) => number === `${what}.${axis}`);
      return track ? trackValue(track, frame) : thing[what][i]!;
    });
    return [values[0]!, values[1]!, values[2]!];
  };
  return { position: of('position'), rotation: of('rotation') };
}

/** What a thing rides, nearest first. A thing that is missing ends the chain; a valid document has no loops. */
export function carriersOf(shot: { readonly things: readonly Thing[] }, thing: Thing): Thing[] {
  const chain: Thing[] = [];
  for (let at = thing.parent; at !== null;) {
    const next = shot.things.find(({ id }) => id === at);
    if (!next || chain.includes(next) || next === thing) break;
    chain.push(next);
    at = next.parent;
  }
  return chain;
}

/** Where a thing is in the world at a frame, which need not be whole. */
export function poseAt(shot: { readonly things: readonly Thing[] }, thing: Thing, frame: number): Pose {
  const own = placementAt(thing, frame);
  return composePoses(carrierPose(shot, thing, frame), poseOf(own.position, own.rotation));
}

/** Where the axes are, in the world, in which a thing's place is given. */
export function carrierPose(shot: { readonly things: readonly Thing[] }, thing: Thing, frame: number): Pose {
  if (thing.parent === null) return STILL;
  return carriersOf(shot, thing).reduceRight((outer, carrier) => {
    const own = placementAt(carrier, frame);
    return composePoses(outer, poseOf(own.position, own.rotation));
  }, STILL);
}

/** Whether a thing, or what it rides, moves over the shot. */
export function isMoved(shot: { readonly things: readonly Thing[] }, thing: Thing): boolean {
  return [thing, ...carriersOf(shot, thing)].some(({ keys }) =>
    keys.some(({ number, knots }) => /^(position|rotation)\./.test(number) && knots.length > 1),
  );
}
