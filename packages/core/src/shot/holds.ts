import type { Hold, PinSet } from './holdSchemas';
import type { Cloth, Shot, Thing } from './schema';

/** All that holds a cloth. */
export function holdsOf(cloth: Pick<Cloth, 'pinSets' | 'ties' | 'leashes'>): Hold[] {
  return [...cloth.pinSets, ...cloth.ties, ...cloth.leashes];
}

/** The things that a cloth is tied to, or whose motion its pins follow; those that are missing are left out. */
export function holdersOf(shot: Pick<Shot, 'things'>, cloth: Cloth): Thing[] {
  const ids = new Set([...cloth.ties.map(({ to }) => to), ...cloth.pinSets.flatMap(({ rides }) => rides ?? [])]);
  return shot.things.filter(({ id }) => ids.has(id) && id !== cloth.id);
}

/** Whether a pin set is moved, turned or gathered, by keys or once and for all. */
export function pinMotion(cloth: Cloth, { id, move, turn, gather }: PinSet): 'keyed' | 'moved' | 'stays' {
  const own = ['move', 'turn', 'gather'].map((what) => `hold:${id}.${what}.`);
  if (cloth.keys.some(({ number }) => own.some((start) => number.startsWith(start)))) return 'keyed';
  return [...move, ...turn].some((value) => value !== 0) || gather.some((share) => share !== 1) ? 'moved' : 'stays';
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

/** Takes a mask away with its keys, and from all that it scales, in a recipe of `edit`. */
export function removeMask(cloth: Cloth, mask: string): void {
  cloth.masks = cloth.masks.filter(({ id }) => id !== mask);
  cloth.keys = cloth.keys.filter(({ number }) => !number.startsWith(`mask:${mask}.`));
  forgetMasks(cloth, (id) => id === mask);
}

/** Lets what unwanted masks scale be unscaled, in a recipe of `edit`. */
export function forgetMasks(cloth: Cloth, unwanted: (mask: string) => boolean): void {
  const kept = (mask: string | null) => (mask !== null && unwanted(mask) ? null : mask);
  for (const hold of holdsOf(cloth)) {
    hold.mask = kept(hold.mask);
    hold.release = kept(hold.release);
    if ('standOffMask' in hold) hold.standOffMask = kept(hold.standOffMask);
  }
  for (const { when } of cloth.cues) if ('mask' in when) when.mask = kept(when.mask);
  for (const entry of cloth.finish) if (entry.mask !== null && unwanted(entry.mask)) entry.mask = null;
  cloth.selfContact.mask = kept(cloth.selfContact.mask);
  for (const [name, mask] of Object.entries(cloth.fabricMasks)) {
    if (unwanted(mask)) delete cloth.fabricMasks[name as keyof Cloth['fabricMasks']];
  }
}
