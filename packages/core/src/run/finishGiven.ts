import { FINISH_STEPS } from '../finish/steps';
import type { FinishGiven } from '../finish/finishStep';
import type { Mesh } from '../mesh/mesh';
import { poseAt } from '../shot/placement';
import type { Cloth, Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { startFrame, startPositions } from './compile';
import { thingMeshAt } from './thingMeshAt';

/** The things that steps of a cloth's finish list are about, by their ids: of all steps, or of those that ask for them at every frame. */
function thingsOf({ finish }: Cloth, everyFrame = false): string[] {
  return finish.flatMap(({ on, step }) => {
    const { things = {}, follows } = FINISH_STEPS[step.kind];
    const names = on && (follows || !everyFrame) ? Object.keys(things) : [];
    return names.flatMap((name) => (step as unknown as Record<string, string | null>)[name] ?? []);
  });
}

/** What the finish list of a cloth is given of the shot; null where no step asks for it. */
export function finishGiven(shot: Shot, cloth: Cloth, assets: Assets): FinishGiven | null {
  const ids = thingsOf(cloth);
  if (ids.length === 0) return null;
  return { start: startPositions(shot, cloth, assets), meshes: meshesAt(shot, ids, assets, startFrame(shot)) };
}

/** The meshes of things that steps of a cloth ask for at every frame, as they stand at one, in the world, by the ids of the things. */
export function finishThings(shot: Shot, cloth: Cloth, assets: Assets, frame: number): Map<string, Mesh> {
  return meshesAt(shot, thingsOf(cloth, true), assets, frame);
}

function meshesAt(shot: Shot, ids: readonly string[], assets: Assets, frame: number): Map<string, Mesh> {
  const meshes = shot.things.flatMap((thing) => {
    if (!ids.includes(thing.id) || !('shape' in thing)) return [];
    return [[thing.id, thingMeshAt(shot, thing, assets, frame)] as const];
  });
  return new Map(meshes);
}

/** What decides what is given: where those things and the cloth start, and what they are. */
export function finishGivenKey(shot: Shot, cloth: Cloth): string {
  const ids = thingsOf(cloth);
  if (ids.length === 0) return '';
  const frame = startFrame(shot);
  const own = [cloth, ...shot.things.filter(({ id }) => ids.includes(id))];
  return JSON.stringify([
    cloth.start,
    own.map((thing) => [thing.id, poseAt(shot, thing, frame), 'shape' in thing ? thing.shape : null]),
  ]);
}
