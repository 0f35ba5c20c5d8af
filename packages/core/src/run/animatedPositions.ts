import { placeBy } from '../mesh/place';
import { poseAt } from '../shot/placement';
import { shapeMesh, type Assets } from '../shot/shapes';
import type { Cloth, Shot } from '../shot/schema';
import { motionPoints } from './motionPoints';

/** Where the animation that came with a cloth's mesh, and what the cloth rides, put its points at a frame, x y z in m in the world. */
export function animatedPositions(shot: Shot, cloth: Cloth, assets: Assets, frame: number): Float32Array {
  const mesh = shapeMesh(cloth.shape, assets);
  const positions = motionPoints(mesh, cloth.motion, shot.frameRate, frame);
  return placeBy({ ...mesh, positions }, poseAt(shot, cloth, frame)).positions;
}
