import { applyPose } from '../math/pose';
import { bounds, meshBounds, type Bounds } from '../mesh/bounds';
import { poseAt } from '../shot/placement';
import type { Shot, Thing } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { meshAt } from '../shot/shapes/sizeKeys';
import { startFrame } from './compile';
import { givenPositions, isGivenWell } from './given';

/** The box around a thing in the world at a frame; undefined for mounts and the endless ground. */
export function worldBounds(shot: Shot, thing: Thing, assets: Assets, frame = startFrame(shot)): Bounds | undefined {
  if (!('shape' in thing) || thing.shape.kind === 'ground') return undefined;
  if (thing.role === 'cloth' && isGivenWell(thing, assets)) return bounds(givenPositions(shot, thing, assets, frame));
  const box = meshBounds(meshAt(thing, assets, frame));
  if (!box) return undefined;
  const pose = poseAt(shot, thing, frame);
  const corners: number[] = [];
  for (let corner = 0; corner < 8; corner++) {
    const at = [0, 1, 2].map((axis) => ((corner >> axis) & 1 ? box.high : box.low)[axis]!);
    corners.push(...applyPose(pose, [at[0]!, at[1]!, at[2]!]));
  }
  return bounds(corners);
}
