import { applyPose, invertPose } from '../math/pose';
import type { Vector3 } from '../math/vector';
import { bounds } from '../mesh/bounds';
import { treeOf, type BoxTree } from '../mesh/boxTree';
import type { Mesh } from '../mesh/mesh';
import { poseAt } from '../shot/placement';
import type { Shot, Thing } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { meshAt } from '../shot/shapes/sizeKeys';
import { motionPoints } from './motionPoints';

/** A thing with its surface, as it is at a frame. */
export interface ThingSurface {
  thing: Extract<Thing, { shape: unknown; enabled: unknown }>;
  /** A place of the world, x y z in m, in the thing's own axes. */
  local: (place: Vector3) => Vector3;
  /** Its mesh in its own axes; null for the endless ground, whose surface is where its own y is 0. */
  mesh: { mesh: Mesh; tree: BoxTree; low: Vector3; high: Vector3 } | null;
}

/** The surface of a thing at a frame; null where there is no such thing in the run, or it has none. */
export function thingSurface(
  { shot, assets, frame }: { shot: Shot; assets: Assets; frame: number },
  id: string | null,
): ThingSurface | null {
  const thing = shot.things.find((one) => one.id === id);
  if (!thing || !('shape' in thing) || !thing.enabled) return null;
  const back = invertPose(poseAt(shot, thing, frame));
  const local = (place: Vector3) => applyPose(back, place);
  if (thing.shape.kind === 'ground') return { thing, local, mesh: null };
  const cut = meshAt(thing, assets, frame);
  const moved =
    'motion' in thing && thing.motion ? motionPoints(cut, thing.motion, shot.frameRate, frame) : cut.positions;
  const mesh = moved === cut.positions ? cut : { ...cut, positions: moved };
  const box = bounds(mesh.positions);
  return box ? { thing, local, mesh: { mesh, tree: treeOf(mesh), ...box } } : null;
}

/** The place of a point, x y z in m. */
export function pointAt(positions: Float32Array, point: number): Vector3 {
  return [positions[point * 3]!, positions[point * 3 + 1]!, positions[point * 3 + 2]!];
}
