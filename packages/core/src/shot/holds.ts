import type { Hold } from './holdSchemas';
import type { Cloth, Shot, Thing } from './schema';

/** All that holds a cloth. */
export function holdsOf(cloth: Pick<Cloth, 'pinSets' | 'ties' | 'leashes'>): Hold[] {
  return [...cloth.pinSets, ...cloth.ties, ...cloth.leashes];
}

/** The things that a cloth is tied to, or whose motion its pins follow; those that are missing are left out. */
export function holdersOf(shot: Pick<Shot, 'things'>, cloth: Cloth): Thing[] {
  const ids = new Set([...cloth.ties.map(({ to }) => to), ...cloth.pinSets.flatMap(({ rides }) => rides ?? [])]);
  return shot.things.filter(({ id }) => ids.has(id));
}

/** Takes a hold away with its keys, in a recipe of `edit`. */
export function removeHold(draft: Shot, cloth: string, hold: string): void {
  const thing = draft.things.find(({ id }) => id === cloth);
  if (thing?.role !== 'cloth') return;
  for (const list of [thing.pinSets, thing.ties, thing.leashes] as Hold[][]) {
    const at = list.findIndex(({ id }) => id === hold);
    if (at >= 0) list.splice(at, 1);
  }
  thing.keys = thing.keys.filter(({ number }) => !number.startsWith(`hold:${hold}.`));
}

/** Takes masks off the numbers of a cloth's fabric, in a recipe of `edit`. */
export function forgetFabricMasks(cloth: Cloth, unwanted: (mask: string) => boolean): void {
  for (const [name, mask] of Object.entries(cloth.fabricMasks)) {
    if (unwanted(mask)) delete cloth.fabricMasks[name as keyof Cloth['fabricMasks']];
  }
}
