import { FRAMES_CLIP } from '../mesh/movingMesh';
import { movedPoints } from '../mesh/movedPoints';
import { pointCount, type Mesh } from '../mesh/mesh';
import { shapeMesh, type Assets } from '../shot/shapes';
import type { Cloth, Shot } from '../shot/schema';
import { animatedPositions } from './animatedPositions';

// Cloth whose motion is given: it goes where a take, or the animation that came with its mesh, has it. Other cloth meets it exactly, and it gives way to nothing.

/** Why a cloth cannot be given its motion, in a sentence; null where it can, or is simulated. */
export function givenProblem(cloth: Cloth, assets: Assets): string | null {
  if (!cloth.given) return null;
  const { asset } = cloth.given;
  const mesh = shapeMesh(cloth.shape, assets);
  if (asset === null) {
    const there = cloth.motion && mesh.motion?.clips.some(({ name }) => name === cloth.motion!.clip);
    return there ? null : `“${cloth.name}” is to follow the animation of its mesh, which has none. Simulate it.`;
  }
  const frames = assets.get(asset);
  if (!frames)
    return `What “${cloth.name}” follows is not in the shot any more. Simulate it at Hold, or let it follow a take again.`;
  if (pointCount(frames) === pointCount(mesh)) return null;
  return `What “${cloth.name}” follows is of another mesh: ${pointCount(frames)} points instead of ${pointCount(mesh)}. Simulate it at Hold, or let it follow a take again.`;
}

/** Whether a cloth is given its motion, and can be. */
export const isGivenWell = (cloth: Cloth, assets: Assets): boolean =>
  cloth.given !== null && givenProblem(cloth, assets) === null;

/** Where cloth that is given its motion has its points at a frame, x y z in m in the world. Before and after what it was given it stands still. */
export function givenPositions(shot: Shot, cloth: Cloth, assets: Assets, frame: number): Float32Array {
  const { asset, start } = cloth.given!;
  if (asset === null) return animatedPositions(shot, cloth, assets, frame);
  const mesh = assets.get(asset)!;
  const clip = mesh.motion?.clips.find(({ name }) => name === FRAMES_CLIP);
  return clip ? movedPoints(mesh, clip, (frame - start) / shot.frameRate, false) : mesh.positions;
}

const unsewn = new WeakMap<Mesh, Mesh>();

/** The mesh of cloth that is given its motion: that has its seams drawn together, or not. */
export function givenMesh(mesh: Mesh): Mesh {
  const { sewn, ...without } = mesh;
  if (!sewn) return mesh;
  const known = unsewn.get(mesh);
  if (known) return known;
  unsewn.set(mesh, without);
  return without;
}
