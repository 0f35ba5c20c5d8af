import {
  cueSchema,
  cueTargets,
  newId,
  type Cloth,
  type Cue,
  type CueTarget,
  type FabricNumber,
  type WhenKind,
} from '@lumbra/core';
import { useDocumentStore } from '../session/document';

/** What rather grows: cloth soaks, and swells. */
const GROWS: readonly string[] = ['weight', 'thickness'];
/** Where a number goes at first: to a tenth, or three times as much, so that something is seen; where it is nothing, to a little of its range. What is not of the fabric is switched off. */
function begin(cloth: Cloth, { of, number, quantity: { min, max } }: CueTarget): number {
  if (of !== null) return Math.min(max, Math.max(min, 0));
  const own = cloth.fabric[number as FabricNumber];
  const isRestSize = number === 'restWarp' || number === 'restWeft';
  const times = isRestSize ? 0.95 : GROWS.includes(number) ? 3 : 0.1;
  const wanted = own === 0 ? max / 20 : own * times;
  return Math.min(max, Math.max(min, wanted));
}

/** The acts on the cues of a cloth; each is one undoable edit. */
export function useCueActs() {
  const document = useDocumentStore();

  function edit(label: string, cloth: Cloth, recipe: (found: Cloth) => void): boolean {
    return document.edit(label, (draft) => {
      const found = draft.things.find(({ id }) => id === cloth.id);
      if (found?.role === 'cloth') recipe(found);
    });
  }

  /** Adds a cue that waits for the cloth to touch the first collider; returns its id. */
  function add(cloth: Cloth): string {
    const taken = new Set(cloth.cues.map(({ name }) => name));
    let count = 1;
    while (taken.has(`Cue ${count}`)) count++;
    const thing = document.shot?.things.find(({ role }) => role === 'collider')?.id ?? null;
    const limp = cueTargets({ things: [] }, cloth).find(({ number }) => number === 'bendWarp');
    const made = cueSchema.parse({
      ...{ id: newId(), name: `Cue ${count}`, when: { kind: 'touch', thing } },
      ...{ number: limp!.number, to: begin(cloth, limp!) },
    });
    edit(`New ${made.name} of ${cloth.name}`, cloth, (found) => void found.cues.push(made));
    return made.id;
  }

  function remove(cloth: Cloth, cue: Cue): void {
    edit(`Delete ${cue.name}`, cloth, (found) => {
      found.cues = found.cues.filter(({ id }) => id !== cue.id);
    });
  }

  function change(cloth: Cloth, cue: Cue, what: string, recipe: (own: Cue) => void): void {
    edit(`${cue.name}, ${what}`, cloth, (found) => {
      const own = found.cues.find(({ id }) => id === cue.id);
      if (own) recipe(own);
    });
  }

  /** Lets a cue wait for something else, with the numbers that this begins with. */
  function waitFor(cloth: Cloth, cue: Cue, kind: WhenKind): void {
    change(cloth, cue, 'when', (own) => {
      own.when = cueSchema.shape.when.parse({ kind });
    });
  }

  /** Lets a cue change another number. */
  function changeNumber(cloth: Cloth, cue: Cue, target: CueTarget): void {
    change(cloth, cue, 'what changes', (own) => {
      own.of = target.of;
      own.number = target.number;
      own.to = begin(cloth, target);
    });
  }

  return { add, remove, change, waitFor, changeNumber };
}
