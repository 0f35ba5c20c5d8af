import type { Contact } from './contactSchemas';
import { valueAt } from './keys';
import type { Cloth, Collider, Shot, Thing } from './schema';

// What the contact table says of two things, and how that is changed.

type Contacts = { readonly contacts: readonly Contact[] };

/** What the table says of two things, in whichever order; undefined where they touch by their own numbers. */
export function contactOf({ contacts }: Contacts, a: string, b: string): Contact | undefined {
  return contacts.find(({ between: [x, y] }) => (x === a && y === b) || (x === b && y === a));
}

/** Whether two things touch. */
export function touches(shot: Contacts, a: string, b: string): boolean {
  return contactOf(shot, a, b)?.touches ?? true;
}

/** How a cloth and another thing touch at a frame by their own numbers: a clearance in m, and a friction. */
export function ownTouch(
  cloth: Cloth,
  other: Cloth | Collider,
  frame: number,
): { clearance: number; friction: number } {
  const rough = (thing: Cloth | Collider) =>
    thing.role === 'cloth' ? valueAt(thing, 'fabric.friction', frame) : valueAt(thing, 'friction', frame);
  const friction = Math.sqrt(rough(cloth) * rough(other));
  if (other.role === 'collider') return { friction, clearance: valueAt(other, 'clearance', frame) };
  return { friction, clearance: (cloth.selfContact.thickness + other.selfContact.thickness) / 2 };
}

/** Pairs of which both are in the run. */
export function activeContacts(shot: Contacts & { readonly things: readonly Thing[] }): Contact[] {
  const active = new Map(shot.things.filter(({ enabled }) => enabled).map(({ id: own, role }) => [own, role]));
  return shot.contacts.filter(({ between }) => {
    const roles = between.map((own) => active.get(own));
    return roles.includes('cloth') && roles.every((role) => role === 'cloth' || role === 'collider');
  });
}

/** Changes what the table says of a cloth and another thing, in a recipe of `edit`. What says nothing any more is taken out. */
export function setContact(draft: Shot, a: string, b: string, change: Partial<Omit<Contact, 'between'>>): void {
  const known = contactOf(draft, a, b);
  const next: Contact = {
    ...(known ?? { between: [a, b], touches: true, clearance: null, friction: null, side: null }),
    ...change,
  };
  const says = !next.touches || next.clearance !== null || next.friction !== null || next.side !== null;
  const others = draft.contacts.filter((contact) => contact !== known);
  draft.contacts = says ? [...others, next] : others;
}

/** Takes out what concerns things that are gone, or two things of which none is cloth any more; in a recipe of `edit`. */
export function tidyContacts(draft: Shot): void {
  const roles = new Map(draft.things.map(({ id: own, role }) => [own, role]));
  const meet = (pair: readonly string[]) => {
    const [a, b] = pair.map((own) => roles.get(own));
    const solid = (role?: Thing['role']) => role === 'cloth' || role === 'collider';
    return solid(a) && solid(b) && (a === 'cloth' || b === 'cloth');
  };
  if (draft.contacts.some(({ between }) => !meet(between))) {
    draft.contacts = draft.contacts.filter(({ between }) => meet(between));
  }
}

/** What the table says of copies of things: as of what they are copies of, also among each other. */
export function copiedContacts({ contacts }: Contacts, copyOf: ReadonlyMap<string, string>): Contact[] {
  return contacts.flatMap(({ between: [a, b], ...rest }) => {
    const [copyA, copyB] = [copyOf.get(a), copyOf.get(b)];
    if (copyA === undefined && copyB === undefined) return [];
    return [{ ...rest, between: [copyA ?? a, copyB ?? b] }];
  });
}
