import type { Mesh } from '../mesh/mesh';
import { movedPoints } from '../mesh/movedPoints';
import type { ThingMotion } from '../shot/schema';

/** The points of a mesh at a frame of its imported animation, x y z in m around its origin; as imported without one. */
export function motionPoints(mesh: Mesh, motion: ThingMotion | null, frameRate: number, frame: number): Float32Array {
  const clip = motion && mesh.motion?.clips.find(({ name }) => name === motion.clip);
  if (!clip) return mesh.positions;
  return movedPoints(mesh, clip, (frame - motion.start) / frameRate, motion.repeat);
}
