import { applyPose, invertPose } from '../math/pose';
import { bounds } from '../mesh/bounds';
import { treeOf } from '../mesh/boxTree';
import { nearestPlace } from '../mesh/nearestPlace';
import { valueAt } from '../shot/keys';
import { poseAt } from '../shot/placement';
import type { Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { meshAt } from '../shot/shapes/sizeKeys';
import { motionPoints } from './motionPoints';

/**
 * Tells how far points, x y z in m, are from where a thing stops cloth of a thickness in m at a frame: from its surface, less its clearance
 * and half the thickness where it is a collider; infinity where that is surely more than `most`. Null where there is no such thing, or it
 * has no surface.
 */
export function distanceTo(
  { shot, assets, frame }: { shot: Shot; assets: Assets; frame: number },
  id: string | null,
  { positions, thickness, most }: { positions: Float32Array; thickness: number; most: number },
): ((point: number) => number) | null {
  const thing = shot.things.find((one) => one.id === id);
  if (!thing || !('shape' in thing) || !thing.enabled) return null;
  const clearance = thing.role === 'collider' ? valueAt(thing, 'clearance', frame) + thickness / 2 : 0;
  const back = invertPose(poseAt(shot, thing, frame));
  const local = (point: number) =>
    applyPose(back, [positions[point * 3]!, positions[point * 3 + 1]!, positions[point * 3 + 2]!]);
  if (thing.shape.kind === 'ground') return (point) => local(point)[1] - clearance;
  const cut = meshAt(thing, assets, frame);
  const moved =
    'motion' in thing && thing.motion ? motionPoints(cut, thing.motion, shot.frameRate, frame) : cut.positions;
  const mesh = moved === cut.positions ? cut : { ...cut, positions: moved };
  const tree = treeOf(mesh);
  const box = bounds(mesh.positions);
  if (!box) return null;
  const reach = most + clearance;
  return (point) => {
    const at = local(point);
    if (at.some((value, axis) => value < box.low[axis]! - reach || value > box.high[axis]! + reach)) return Infinity;
    return (nearestPlace(mesh, tree, at)?.distance ?? Infinity) - clearance;
  };
}
