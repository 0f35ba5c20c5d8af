import { createCloth, createPinSet } from './create';
import { keyableNumbers } from './keyable';
import type { Shot } from './schema';
import { freeName } from './names';

/** What a thing was split into: assets of what came off and of what remains, and the points of the first that stay with it. */
export interface SplitAssets {
  piece: string;
  rest: string;
  border: number[];
}

/**
 * Makes what was split off a thing cloth that stays sewn to what remains: it rides the thing, keeps its animation, and its border follows both. In a recipe of
 * `edit`.
 */
export function splitThing(draft: Shot, id: string, { piece, rest, border }: SplitAssets, cloth: string): void {
  const thing = draft.things.find((candidate) => candidate.id === id);
  if (thing?.role !== 'collider' && thing?.role !== 'scenery') return;
  const motion = thing.motion && { ...thing.motion };
  const pins = createPinSet({ name: `Border on ${thing.name}`.slice(0, 120), points: border, rides: cloth });
  draft.things.push(
    createCloth({
      ...{ id: cloth, name: freeName(draft, `Cloth of ${thing.name}`.slice(0, 110)), parent: id, motion },
      shape: { kind: 'mesh', asset: piece },
      pinSets: border.length > 0 ? [pins] : [],
    }),
  );
  thing.shape = { kind: 'mesh', asset: rest };
  // Sizes that were keyed are none of a mesh.
  const known = keyableNumbers(thing);
  thing.keys = thing.keys.filter(({ number }) => known[number]);
}
