import { applyPatches, enablePatches, produceWithPatches, type Patch } from 'immer';
import { describeIssue, ShotError } from './readShot';
import { shotSchema, type Shot } from './schema';

enablePatches();

/** One undoable change. */
export interface Edit {
  label: string;
  forward: Patch[];
  backward: Patch[];
}

/**
 * Applies a recipe to a draft of the shot. An edit that changes nothing gives no patches.
 * @throws ShotError when the result would not be a valid shot; the shot is then as before
 */
export function edit(shot: Shot, label: string, recipe: (draft: Shot) => void): { shot: Shot; edit: Edit } {
  const [next, forward, backward] = produceWithPatches(shot, (draft) => {
    recipe(draft);
  });
  if (forward.length > 0) {
    const result = shotSchema.safeParse(next);
    if (!result.success) throw new ShotError(`Nothing was changed: ${describeIssue(result.error.issues[0]!)}.`);
  }
  return { shot: next, edit: { label, forward, backward } };
}

export function undo(shot: Shot, { backward }: Edit): Shot {
  return applyPatches(shot, backward);
}

export function redo(shot: Shot, { forward }: Edit): Shot {
  return applyPatches(shot, forward);
}
