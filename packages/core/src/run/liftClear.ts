import { bounds } from '../mesh/bounds';
import type { Mesh } from '../mesh/mesh';
import { placeBy } from '../mesh/place';
import { poseAt } from '../shot/placement';
import type { Shot, Thing } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { meshAt } from '../shot/shapes/sizeKeys';
import { givenPositions, isGivenWell } from './given';
import { worldBounds } from './worldBounds';

/** Room that is left besides the clearance of what is below, in m. */
const ROOM = 0.005;

/**
 * How far up a thing has to go, in m, to be clear of everything that is under it: of colliders and cloth whose boxes overlap its own
 * seen from above. Never down.
 */
export function liftClear(shot: Shot, thing: Thing, assets: Assets, frame: number): number {
  if (!('shape' in thing) || thing.shape.kind === 'ground') return 0;
  const own = bounds(placed(shot, thing, assets, frame).positions);
  if (!own) return 0;
  let top = -Infinity;
  for (const other of shot.things) {
    if (other.id === thing.id || !('shape' in other) || other.role === 'scenery' || !other.enabled) continue;
    const clearance = ('clearance' in other ? other.clearance : 0) + ROOM;
    if (other.shape.kind === 'ground') {
      top = Math.max(top, poseAt(shot, other, frame).center[1] + clearance);
      continue;
    }
    const box = worldBounds(shot, other, assets, frame);
    if (!box || box.low[1] > own.high[1]) continue;
    if ([0, 2].some((axis) => box.low[axis]! > own.high[axis]! || box.high[axis]! < own.low[axis]!)) continue;
    top = Math.max(top, highestWithin(placed(shot, other, assets, frame), own.low, own.high) + clearance);
  }
  return Math.max(0, top - own.low[1]);
}

/** How far down (or up) a thing has to go, in m, so that its lowest point stands on the ground. */
export function toGround(shot: Shot, thing: Thing, assets: Assets, frame: number): number {
  const own = worldBounds(shot, thing, assets, frame);
  const ground = shot.things.find((other) => 'shape' in other && other.shape.kind === 'ground');
  const level = ground ? poseAt(shot, ground, frame).center[1] : 0;
  if (!('shape' in thing)) return level - poseAt(shot, thing, frame).center[1];
  if (!own || !('shape' in thing)) return 0;
  // Its box is turned with it: the points themselves say where it is lowest.
  return level - bounds(placed(shot, thing, assets, frame).positions)!.low[1];
}

function placed(shot: Shot, thing: Extract<Thing, { shape: unknown }>, assets: Assets, frame: number): Mesh {
  const mesh = meshAt(thing, assets, frame);
  if (thing.role === 'cloth' && isGivenWell(thing, assets))
    return { ...mesh, positions: givenPositions(shot, thing, assets, frame) };
  return placeBy(mesh, poseAt(shot, thing, frame));
}

/** The highest point of a mesh over the faces that a box covers, seen from above. */
function highestWithin({ positions, triangles }: Mesh, low: readonly number[], high: readonly number[]): number {
  let top = -Infinity;
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
    const apart = [0, 2].some(
      (axis) =>
        corners.every((at) => positions[at + axis]! < low[axis]!) ||
        corners.every((at) => positions[at + axis]! > high[axis]!),
    );
    if (!apart) for (const at of corners) top = Math.max(top, positions[at + 1]!);
  }
  return top;
}
