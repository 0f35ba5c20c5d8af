import { CUE_WHEN_KINDS, CUE_WHENS } from '../../cues/when';
import { quantitiesOf, quantityOf, type Quantity } from '../../quantity/quantity';
import { formatQuantity } from '../../quantity/units';
import { cueNumbers, cueSchema, type Cue } from '../cueSchemas';
import { cueTargets, isByPoint, type CueTarget } from '../cueTargets';
import { holdsOf } from '../holds';
import { newId } from '../create';
import type { Cloth, Shot } from '../schema';
import { number } from './numbers';
import { splitNames } from './sizes';
import type { TypedLine } from './typedLine';

// Cues in a line of words: “when Apron touches Lamp within 0.34 then bend 4 curl weft 0 over 14 spread 5 cm”. One cue for each number that changes.

export const CUE_WORD = 'when';
export const CUE_EXAMPLE = 'when Apron touches Lamp then bend 4';

/** What a cue does besides, at the end of a line. */
const ENDINGS: Record<string, Partial<Cue>> = { everywhere: { onAll: true }, 'while it lasts': { lasts: true } };

/**
 * Reads what stands behind “when”: a cloth by its name (left out where there is one alone), what it waits for, “then” the numbers that change and where
 * they go, “over” so many frames, “spread” so far.
 * @throws Error with a sentence for the artist
 */
export function cueLine(text: string, shot: Shot): TypedLine {
  const [condition, outcome] = text.split(/\bthen\b/i) as [string, string?];
  if (!outcome?.trim()) throw new Error(`Say what then changes, for example “${CUE_EXAMPLE}”.`);
  const { cloth, rest } = clothOf(condition.trim(), shot);
  const { when, summary } = whenOf(rest, shot, cloth);
  const { changes, besides } = changesOf(outcome, shot, cloth);
  const cues = changes.map(({ target, to }) =>
    cueSchema.parse({
      ...{ id: newId(), name: target.name, when, of: target.of, number: target.number, to },
      ...besides,
      ...(!isByPoint(target) && { spread: 0 }),
    }),
  );
  const goes = changes.map(({ target: { name, quantity }, to }) => {
    return `${name.toLowerCase()} goes to ${formatQuantity(to, quantity.unit)} ${quantity.unit}`.trim();
  });
  return {
    summary: `cue of ${cloth.name}: when ${summary}, ${goes.join(', ')}`,
    apply: (draft) => {
      const found = draft.things.find(({ id }) => id === cloth.id);
      if (found?.role === 'cloth') found.cues.push(...cues);
      return [cloth.id];
    },
  };
}

function clothOf(text: string, shot: Shot): { cloth: Cloth; rest: string } {
  const cloths = shot.things.filter((thing): thing is Cloth => thing.role === 'cloth');
  const named = beginning(text, cloths);
  if (named) return { cloth: named.found, rest: named.rest };
  if (cloths.length === 1) return { cloth: cloths[0]!, rest: text };
  if (cloths.length === 0) throw new Error('There is no cloth yet for which a cue could wait.');
  throw new Error(`Say which cloth it is of: ${list(cloths.map(({ name }) => name))}.`);
}

/** What is waited for: “touches Lamp within 0.34”, “is inside Tank”, “frame 24”, “is stretched beyond 3 %”. */
function whenOf(text: string, shot: Shot, cloth: Cloth): { when: Cue['when']; summary: string } {
  const said = text.replace(/^(?:it\s+)?(?:is\s+)?/i, '');
  const kinds = CUE_WHEN_KINDS.flatMap((kind) => CUE_WHENS[kind].words.map((name) => ({ kind, name })));
  const known = beginning(said, kinds);
  if (!known)
    throw new Error(`“${said || 'nothing'}” cannot be waited for. Known are ${list(kinds.map(({ name }) => name))}.`);
  const { kind, name: word } = known.found;
  const { schema, label } = CUE_WHENS[kind];
  const entry = (['thing', 'mask', 'hold'] as const).find((one) => one in schema.shape);
  const of = entry && named(known.rest.replace(/^(?:from|by|of)\s+/i, ''), entry, shot, cloth);
  const quantities = new Map(Object.entries(quantitiesOf(schema)));
  const { row, sizes } = splitNames(of ? of.rest : known.rest, quantities);
  const [first] = quantities;
  const numbers = sizes.map(([name, typed]) => [name, number(typed, quantities.get(name)!.unit)] as const);
  if (row && !first) throw new Error(`“${row}” is not understood: “${word}” has no number.`);
  if (row && first) numbers.unshift([first[0], number(row, first[1].unit)]);
  const when = schema.parse({
    kind,
    ...(of && { [entry]: of.found.id }),
    ...Object.fromEntries(numbers),
  }) as Cue['when'];
  return { when, summary: [label, of?.found.name].filter(Boolean).join(' ') };
}

/** The thing, mask or hold that the condition is about. */
function named(text: string, entry: 'thing' | 'mask' | 'hold', shot: Shot, cloth: Cloth) {
  const all = {
    thing: shot.things.filter((thing) => 'shape' in thing && thing.id !== cloth.id),
    mask: cloth.masks,
    hold: holdsOf(cloth),
  }[entry];
  const found = beginning(text, all as readonly { id: string; name: string }[]);
  if (found) return found;
  if (all.length === 0) throw new Error(`There is no ${entry} yet that it could be about.`);
  throw new Error(`Say which ${entry}: ${list(all.map(({ name }) => name))}.`);
}

interface Changes {
  changes: { target: CueTarget; to: number }[];
  besides: Partial<Cue>;
}

function changesOf(text: string, shot: Shot, cloth: Cloth): Changes {
  const groups = targetGroups(cueTargets(shot, cloth));
  const known = new Map<string, Quantity>([
    ['over', quantityOf(cueNumbers.over)!],
    ['spread', quantityOf(cueNumbers.spread)!],
  ]);
  groups.forEach(({ label, targets }, i) => known.set(`group ${i}`, { ...targets[0]!.quantity, label }));
  let left = text.replace(/\s+(?:goes?\s+)?to\s+(?=[-\d.])/gi, ' ');
  const besides: Partial<Cue> = {};
  for (const [words, what] of Object.entries(ENDINGS)) {
    const without = left.replace(new RegExp(`\\s*\\b${words}\\b`, 'i'), '');
    if (without !== left) Object.assign(besides, what);
    left = without;
  }
  const { row, sizes } = splitNames(left.trim(), known);
  if (row) throw new Error(`“${row}” is not a number that a cue can change, with where it goes.`);
  const changes: Changes['changes'] = [];
  for (const [name, typed] of sizes) {
    const { unit, label } = known.get(name)!;
    const value = number(typed, unit, `Say where ${label.toLowerCase()} goes.`);
    const group = groups[Number(/^group (\d+)$/.exec(name)?.[1])];
    if (group) changes.push(...group.targets.map((target) => ({ target, to: value })));
    else besides[name as 'over' | 'spread'] = value;
  }
  if (changes.length === 0)
    throw new Error('Say which number changes and where it goes: bend 4, stretch 50, damping 20.');
  return { changes, besides };
}

/** Numbers as they are typed: by their names, also without commas, and those of warp and weft together: “bend”. */
function targetGroups(targets: readonly CueTarget[]): { label: string; targets: CueTarget[] }[] {
  const groups = new Map<string, CueTarget[]>();
  const put = (label: string, target: CueTarget) => {
    const group = groups.get(label) ?? [];
    groups.set(label, group.includes(target) ? group : [...group, target]);
  };
  for (const target of targets) {
    put(target.name, target);
    put(target.name.replace(/,/g, ''), target);
    const pair = target.of === null && /^(.*), (?:warp|weft)$/.exec(target.name);
    if (pair) put(pair[1]!, target);
  }
  return [...groups].map(([label, all]) => ({ label, targets: all }));
}

/** What a text begins with, the longest name first, and what follows. */
function beginning<Named extends { name: string }>(
  text: string,
  all: readonly Named[],
): { found: Named; rest: string } | null {
  const low = text.toLowerCase();
  const fit = all.filter(({ name }) => {
    const wanted = name.toLowerCase();
    return low.startsWith(wanted) && !/^[\p{L}\d]/u.test(low.slice(wanted.length));
  });
  const [found] = fit.sort((a, b) => b.name.length - a.name.length);
  return found ? { found, rest: text.slice(found.name.length).trim() } : null;
}

function list(names: readonly string[]): string {
  return names.length > 10 ? `${names.slice(0, 10).join(', ')} and others` : names.join(', ');
}
