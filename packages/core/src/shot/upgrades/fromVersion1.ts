import { UpgradeError, type RawDocument } from './upgrade';

// Version 1 said “peg” for a mount and “standIn” for the contact shape of a collider.

/** Old entry, new entry. */
const RENAMED: ReadonlyMap<string, string> = new Map([['standIn', 'contactShape']]);
const ROLES: ReadonlyMap<unknown, string> = new Map([['peg', 'mount']]);

/**
 * Makes a document of version 2 of one of version 1. What is not as it should be is left for the schema to refuse.
 * @throws UpgradeError where a thing names both the old and the new entry, and they differ
 */
export function fromVersion1(document: RawDocument): RawDocument {
  const { things } = document;
  return Array.isArray(things) ? { ...document, things: things.map((thing, i) => upgradeThing(thing, i)) } : document;
}

function upgradeThing(thing: unknown, place: number): unknown {
  if (typeof thing !== 'object' || thing === null || Array.isArray(thing)) return thing;
  const made = new Map<string, unknown>();
  for (const [entry, value] of Object.entries(thing)) {
    const now = RENAMED.get(entry) ?? entry;
    if (made.has(now) && made.get(now) !== value) {
      const old = [...RENAMED.keys()].find((name) => RENAMED.get(name) === now)!;
      throw new UpgradeError(
        `things[${place}] names both “${old}”, as version 1 did, and “${now}”, and they differ: take one of them out`,
      );
    }
    made.set(now, now === 'role' ? (ROLES.get(value) ?? value) : value);
  }
  return Object.fromEntries(made);
}

/** What a run of a document of version 1 depended on, by the paths of version 2: the run itself is the same. */
export function inputsFromVersion1<Value>(inputs: Readonly<Record<string, Value>>): Record<string, Value> {
  const renamed = ([path, value]: [string, Value]): [string, Value] => {
    const [entry] = /[^.]+$/.exec(path) ?? [path];
    return [path.slice(0, path.length - entry.length) + (RENAMED.get(entry) ?? entry), value];
  };
  return Object.fromEntries(Object.entries(inputs).map(renamed));
}
