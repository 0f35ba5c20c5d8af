import type { Pose } from '../math/pose';
import type { Mesh } from '../mesh/mesh';
import { placeBy } from '../mesh/place';
import { poseAt } from '../shot/placement';
import type { Shot, Thing } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { meshAt } from '../shot/shapes/sizeKeys';
import { motionPoints } from './motionPoints';

/** The mesh of a thing as it stands at a frame, in the world: where it is, however it moves and changes its shape. */
export function thingMeshAt(
  shot: Shot,
  thing: Extract<Thing, { shape: unknown }>,
  assets: Assets,
  frame: number,
): Mesh {
  const mesh = meshAt(thing, assets, frame);
  const motion = 'motion' in thing ? thing.motion : null;
  return placed(mesh, motionPoints(mesh, motion, shot.frameRate, frame), poseAt(shot, thing, frame));
}

/** Where each mesh was placed last: what stands still is the same mesh at every frame, and what is known of it stays known. */
const last = new WeakMap<Mesh, { pose: string; mesh: Mesh }>();

function placed(mesh: Mesh, positions: Float32Array, at: Pose): Mesh {
  if (positions !== mesh.positions) return placeBy({ ...mesh, positions }, at);
  const pose = JSON.stringify(at);
  const known = last.get(mesh);
  if (known?.pose === pose) return known.mesh;
  const made = placeBy(mesh, at);
  last.set(mesh, { pose, mesh: made });
  return made;
}
