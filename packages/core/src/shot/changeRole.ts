import { tidyContacts } from './contacts';
import { createAir, createCloth, createCollider, createMount, createScenery } from './create';
import { keyableNumbers } from './keyable';
import type { Role, Shot, Thing } from './schema';

/** Another role keeps name, place, shape, keys, what it rides and whatever else both roles have. For recipes of `edit`. */
export function changeRole(draft: Shot, id: string, role: Role): void {
  const old = draft.things.find((candidate) => candidate.id === id);
  if (!old || old.role === role) return;
  const { name, visible, enabled, position, rotation, parent } = old;
  const base = { id, name, visible, enabled, position, rotation, parent };
  const shaped = {
    ...base,
    ...('shape' in old && { shape: old.shape }),
    ...('motion' in old && { motion: old.motion }),
  };
  const solid = { ...shaped, ...('colour' in old && { colour: old.colour }) };
  const makers: Record<Role, () => Thing> = {
    cloth: () => createCloth(shaped),
    collider: () => createCollider(solid),
    scenery: () => createScenery(solid),
    mount: () => createMount(base),
    air: () => createAir(base),
  };
  const next = makers[role]();
  const known = keyableNumbers(next);
  next.keys = old.keys.filter(({ number }) => known[number]);
  draft.things = draft.things.map((candidate) => (candidate.id === id ? next : candidate));
  tidyContacts(draft);
}
