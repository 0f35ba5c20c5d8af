import {
  keyableNumbers,
  keyNow,
  keyOwner,
  deleteKnots,
  setConstant,
  setKnot,
  shiftCurve,
  trackOf,
  valueAt,
  type KeyedOwner,
  type Shot,
} from '@lumbra/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { useDocumentStore } from '../session/document';
import { useRunStore } from './run';
import { useSelectionStore } from './selection';

export type KeyState = 'none' | 'constant' | 'here' | 'elsewhere';

/** Values that were asked for at a frame of a keyed number, and wait to be told what to do. */
export interface KeyQuestion {
  /** Owner of the numbers: a thing, or null for the air. */
  thing: string | null;
  frame: number;
  label: string;
  values: Readonly<Record<string, number>>;
}

interface Change {
  label: string;
  live: boolean;
  merge: string;
}

/**
 * Changing numbers that may be keyed. A constant number is simply changed, a knot at this frame likewise; away from its knots a keyed
 * number asks whether to key here or to shift the whole curve. Nothing is ever keyed without being told to.
 */
export const useKeyingStore = defineStore('keying', () => {
  const document = useDocumentStore();
  const run = useRunStore();
  const selection = useSelectionStore();
  const question = shallowRef<KeyQuestion | null>(null);
  /** The thing whose keyed numbers are keyed at every change, until it is told to stop. */
  const goingOn = ref<{ thing: string | null } | null>(null);
  /** Numbers that are shifted as a whole at this frame: asked once, not at every pixel. */
  const shifting = shallowRef<ReadonlySet<string>>(new Set());

  watch(
    () => run.frame,
    () => {
      question.value = null;
      shifting.value = new Set();
    },
  );
  watch(
    () => selection.thingId,
    () => {
      goingOn.value = null;
      question.value = null;
    },
  );

  const owner = (thing: string | null): KeyedOwner | undefined =>
    document.shot ? keyOwner(document.shot, thing) : undefined;

  function keyState(thing: string | null, number: string): KeyState {
    const found = owner(thing);
    if (!found || !keyableNumbers(found)[number]) return 'none';
    const track = trackOf(found, number);
    if (!track) return 'constant';
    return track.knots.some(({ frame }) => frame === run.frame) ? 'here' : 'elsewhere';
  }

  /** A number as the artist sees it at this frame: what was asked for, else keyed or constant. */
  function shown(thing: string | null, number: string): number {
    const asked = question.value?.thing === thing ? question.value.values[number] : undefined;
    if (asked !== undefined) return asked;
    const found = owner(thing);
    return found ? valueAt(found, number, run.frame) : 0;
  }

  /** Changes numbers of an owner at this frame. Those that have to be asked about wait in `question`. */
  function change(thing: string | null, values: Record<string, number>, { label, live, merge }: Change): void {
    const asked: Record<string, number> = {};
    /** Numbers that are asked for as they are: a drag that came back, or was given up. */
    const back: string[] = [];
    const apply = (draft: Shot) => {
      const found = keyOwner(draft, thing);
      if (!found) return;
      for (const [number, value] of Object.entries(values)) {
        const state = keyState(thing, number);
        if (state === 'here' || (state === 'elsewhere' && goingOn.value?.thing === thing)) {
          setKnot(draft, { thing, number, frame: run.frame }, value);
        } else if (state === 'elsewhere' && shifting.value.has(`${thing}/${number}`)) {
          shiftCurve(draft, { thing, number }, value - valueAt(found, number, run.frame));
        } else if (state === 'elsewhere') {
          if (Math.abs(value - valueAt(found, number, run.frame)) > 1e-9) asked[number] = value;
          else back.push(number);
        } else setConstant(found, number, value);
      }
    };
    document.edit(label, apply, live ? merge : null);
    const same = question.value?.thing === thing && question.value.frame === run.frame ? question.value.values : {};
    if (Object.keys(asked).length === 0 && !back.some((number) => number in same)) return;
    const left = Object.entries({ ...same, ...asked }).filter(([number]) => !back.includes(number));
    question.value = left.length > 0 ? { thing, frame: run.frame, label, values: Object.fromEntries(left) } : null;
  }

  /** Answers the question: key here, key here and at every further change, shift the whole curve, or leave it. */
  function answer(choice: 'key' | 'go on' | 'shift' | 'leave'): void {
    const asked = question.value;
    question.value = null;
    if (!asked || choice === 'leave') return;
    const { thing, values, label, frame } = asked;
    if (choice === 'go on') goingOn.value = { thing };
    if (choice === 'shift') shifting.value = new Set(Object.keys(values).map((number) => `${thing}/${number}`));
    document.edit(choice === 'shift' ? `${label}, whole curve` : `${label}, key at ${frame}`, (draft) => {
      for (const [number, value] of Object.entries(values)) {
        if (choice === 'shift')
          shiftCurve(draft, { thing, number }, value - valueAt(keyOwner(draft, thing)!, number, frame));
        else setKnot(draft, { thing, number, frame }, value);
      }
    });
  }

  /** Keys a number at this frame, or takes its knot here away. */
  function toggle(thing: string | null, number: string, label: string): void {
    const here = keyState(thing, number) === 'here';
    const frame = run.frame;
    const asked = question.value?.thing === thing ? question.value.values[number] : undefined;
    if (question.value && asked !== undefined) {
      const rest = Object.entries(question.value.values).filter(([other]) => other !== number);
      question.value = rest.length > 0 ? { ...question.value, values: Object.fromEntries(rest) } : null;
    }
    document.edit(here ? `Delete the key of ${label}` : `Key ${label}`, (draft) => {
      if (here) deleteKnots(draft, [{ thing, number, frame }]);
      else if (asked !== undefined) setKnot(draft, { thing, number, frame }, asked);
      else keyNow(draft, thing, [number], frame);
    });
    selection.curve = { thing, number };
  }

  /** Keys place and turn of the selected thing at this frame, as far as they are keyed already; all of them when none is. */
  function keyPlace(): void {
    const thing = selection.thing;
    if (!thing) return;
    if (question.value?.thing === thing.id) return answer('key');
    const all = Object.keys(keyableNumbers(thing)).filter((number) => /^(position|rotation)\./.test(number));
    const keyed = all.filter((number) => trackOf(thing, number));
    const numbers = keyed.length > 0 ? keyed : all.filter((number) => number.startsWith('position'));
    if (numbers.length === 0) return;
    document.edit(`Key ${thing.name}`, (draft) => keyNow(draft, thing.id, numbers, run.frame));
  }

  /** The shot with the values that wait for an answer in their place, to be looked at. */
  function preview(shot: Shot): Shot {
    const asked = question.value;
    if (!asked || asked.frame !== run.frame || asked.thing === null) return shot;
    const things = shot.things.map((thing) => {
      if (thing.id !== asked.thing) return thing;
      const shown = structuredClone(thing);
      shown.keys = shown.keys.filter(({ number }) => !(number in asked.values));
      for (const [number, value] of Object.entries(asked.values)) setConstant(shown, number, value);
      return shown;
    });
    return { ...shot, things };
  }

  const asking = computed(() => (question.value?.frame === run.frame ? question.value : null));

  return { question: asking, goingOn, keyState, shown, change, answer, toggle, keyPlace, preview };
});
