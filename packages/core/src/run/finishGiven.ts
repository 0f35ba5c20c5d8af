import { FINISH_STEPS } from '../finish/steps';
import type { FinishGiven } from '../finish/finishStep';
import { placeBy } from '../mesh/place';
import { poseAt } from '../shot/placement';
import type { Cloth, Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { meshAt } from '../shot/shapes/sizeKeys';
import { startFrame, startPositions } from './compile';

/** The things that steps of a cloth's finish list are about, by their ids. */
function thingsOf({ finish }: Cloth): string[] {
  return finish.flatMap(({ on, step }) => {
    const names = Object.keys((on && FINISH_STEPS[step.kind].things) || {});
    return names.flatMap((name) => (step as unknown as Record<string, string | null>)[name] ?? []);
  });
}

/** What the finish list of a cloth is given of the shot; null where no step asks for it. */
export function finishGiven(shot: Shot, cloth: Cloth, assets: Assets): FinishGiven | null {
  const ids = thingsOf(cloth);
  if (ids.length === 0) return null;
  const frame = startFrame(shot);
  const meshes = shot.things.flatMap((thing) => {
    if (!ids.includes(thing.id) || !('shape' in thing)) return [];
    return [[thing.id, placeBy(meshAt(thing, assets, frame), poseAt(shot, thing, frame))] as const];
  });
  return { start: startPositions(shot, cloth, assets), meshes: new Map(meshes) };
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
