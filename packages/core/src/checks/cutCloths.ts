import { simulatedCloths } from '../run/compile';
import type { Cloth, Shot } from '../shot/schema';
import type { PatternShape } from '../shot/shapes';

/** Cloths of the run that are cut by a pattern. */
export function cutCloths(shot: Shot): { cloth: Cloth; shape: PatternShape }[] {
  return simulatedCloths(shot).flatMap((cloth) =>
    cloth.shape.kind === 'pattern' ? [{ cloth, shape: cloth.shape }] : [],
  );
}

/** The pattern of a cloth in a draft, to be changed. */
export function cutIn(draft: Shot, id: string | null): PatternShape | null {
  const found = draft.things.find((thing) => thing.id === id);
  return found?.role === 'cloth' && found.shape.kind === 'pattern' ? found.shape : null;
}
