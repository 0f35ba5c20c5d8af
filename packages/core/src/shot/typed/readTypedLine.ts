import { z } from 'zod';
import { SWATCH_BOOK } from '../../fabric/swatchBook';
import { createCloth, createCollider, createMount, createScenery } from '../create';
import { freeName } from '../names';
import { describeIssue } from '../readShot';
import type { Cloth, Shot, Thing } from '../schema';
import type { Shape } from '../shapes';
import { KINDS, type Kind } from './kinds';
import { angles, lengths, number, placesOf } from './numbers';

// Things and air in a line of words: “box 0.95 × 0.5 × 0.62 at −0.1, 0, 0 turned 0, 6, 0”. For those who have the numbers at hand, and
// for those who work by keyboard.

export interface TypedLine {
  /** What was understood, in words, for the artist to see before it is done. */
  summary: string;
  /** Does it, in a recipe of `edit`; returns the ids of new things. */
  apply: (draft: Shot) => string[];
}

export type TypedResult = { ok: true; line: TypedLine } | { ok: false; reason: string };

const MOUNT_WORDS = ['mount'];
/** Words that begin a part of the line, in any order. */
const PARTS = [
  'at',
  'turned',
  'every',
  'of',
  'rest',
  'print',
  'as',
  'friction',
  'clearance',
  'towards',
  'rise',
  'gusts',
  'named',
] as const;
type Part = (typeof PARTS)[number];

export const TYPED_EXAMPLE = 'box 0.95 × 0.5 × 0.62 at 0, 0, 0';

/**
 * Reads a line. Lengths are in m unless they carry a unit, angles in degrees. `at` is where the middle of its foot stands; “±” in
 * front of a coordinate makes it twice, once on either side. Never throws: what is not understood is said.
 */
export function readTypedLine(text: string, shot: Shot): TypedResult {
  const cleaned = text
    .trim()
    .replace(/\u2212/g, '-')
    .replace(/\+\s*[-/]\s*/g, '±');
  if (cleaned === '') return { ok: false, reason: `Type what to add, for example “${TYPED_EXAMPLE}”.` };
  const words = cleaned.split(/\s+/);
  const head = words[0]!.toLowerCase();
  const parts = partsOf(words.slice(1));
  try {
    if (head === 'wind') return { ok: true, line: windLine(parts) };
    return { ok: true, line: thingLine(head, parts, shot) };
  } catch (error) {
    if (error instanceof z.ZodError)
      return { ok: false, reason: `This cannot be: ${describeIssue(error.issues[0]!)}.` };
    return { ok: false, reason: error instanceof Error ? error.message : String(error) };
  }
}

type Parts = Map<Part | 'numbers', string>;

function partsOf(words: string[]): Parts {
  const parts: Parts = new Map();
  let at: Part | 'numbers' = 'numbers';
  for (const word of words) {
    const part = PARTS.find((known) => known === word.toLowerCase());
    if (part && at !== 'named') parts.set((at = part), '');
    else parts.set(at, `${parts.get(at) ?? ''} ${word}`.trim());
  }
  return parts;
}

function thingLine(head: string, parts: Parts, shot: Shot): TypedLine {
  const isMount = MOUNT_WORDS.includes(head);
  const [label, kind] = Object.entries(KINDS).find(([, { words }]) => words.includes(head)) ?? [
    isMount ? 'Mount' : '',
    undefined,
  ];
  if (!kind && !isMount) {
    const known = [...Object.values(KINDS).flatMap(({ words }) => words), ...MOUNT_WORDS, 'wind'].join(', ');
    throw new Error(`“${head}” is not something to add. Known are ${known}.`);
  }
  const numbers = lengths(parts.get('numbers') ?? '');
  if (kind && numbers.length < kind.least)
    throw new Error(`A ${head} needs ${kind.numbers}, for example “${example(head, kind)}”.`);
  const role = (parts.get('as') ?? '').toLowerCase();
  if (role && !['collider', 'scenery', 'cloth'].includes(role))
    throw new Error(`“as ${role}” is not known: cloth, collider or scenery.`);
  const shape = kind?.shape(numbers);
  if (shape?.kind === 'sheet' && parts.has('every'))
    shape.spacing = lengths(parts.get('every')!, 'mm')[0] ?? shape.spacing;
  const isCloth = role === 'cloth' || (shape?.kind === 'sheet' && role === '');
  const card = cardOf(parts.get('of'), isCloth);
  const places = placesOf(parts.get('at') ?? (isCloth ? '0, 1, 0' : '0, 0, 0'));
  const turn = angles(parts.get('turned') ?? '');
  const lift = kind?.foot(numbers) ?? 0;
  const name = parts.get('named') || label;
  const summary = [
    places.length > 1 ? `${places.length} × ${name}` : name,
    card ? `of ${card.name.toLowerCase()}` : '',
    role ? `as ${role}` : '',
    `at ${places.map((place) => place.map((v) => Math.round(v * 1000) / 1000).join(', ')).join(' and ')}`,
  ];
  const forCloth = isCloth ? clothParts(parts, card) : refuse(parts, ['rest', 'print'], 'Only cloth has');
  const isCollider = shape !== undefined && !isCloth && role !== 'scenery';
  const touch = isCollider ? touchParts(parts, shape) : refuse(parts, ['friction', 'clearance'], 'Only a collider has');
  const apply = (draft: Shot): string[] =>
    places.map(([x, y, z]) => {
      const given = {
        name: freeName(draft, name),
        position: [x, y + lift, z] as [number, number, number],
        rotation: turn,
      };
      let made: Thing;
      if (!shape) made = createMount(given);
      else if (isCloth) made = createCloth({ ...given, shape, ...forCloth });
      else if (isCollider) made = createCollider({ ...given, shape, ...touch });
      else made = createScenery({ ...given, shape });
      draft.things.push(made);
      return made.id;
    });
  // A wrong number is found now, not when it is done.
  apply({ ...shot, things: [...shot.things] });
  return { summary: summary.filter(Boolean).join(' '), apply };
}

/** What is said of a cloth: “of canvas rest 102 × 103 % print stripe 50 cm #E9DFC6 #A9503B”. */
function clothParts(parts: Parts, card: ReturnType<typeof cardOf>): Partial<Parameters<typeof createCloth>[0]> {
  const print: Partial<Cloth['print']> = { waxed: card?.id === 'waxed-cotton' };
  const words = (parts.get('print') ?? '').split(/\s+/).filter(Boolean);
  const colours = words.filter((word) => word.startsWith('#'));
  const kind = words[0]?.toLowerCase();
  if (kind !== undefined) {
    if (kind !== 'plain' && kind !== 'stripe' && kind !== 'check')
      throw new Error(`A print is plain, stripe or check, not “${kind}”.`);
    print.kind = kind;
    const repeat = words.slice(1).filter((word) => !word.startsWith('#'));
    if (repeat.length > 0) print.repeat = number(repeat.join(' '), 'cm');
    if (colours[0]) print.colour = colours[0];
    if (colours[1]) print.second = colours[1];
  }
  const [restWarp, restWeft] = parts.has('rest') ? lengths(parts.get('rest')!, '%') : [];
  const rest = restWarp === undefined ? undefined : { restWarp, restWeft: restWeft ?? restWarp };
  return { ...(card && { card: card.id }), print, ...(rest && { fabric: rest }) };
}

/** How a collider touches: “friction 0.35 clearance 4 mm”. */
function touchParts(parts: Parts, shape: Shape): Partial<Parameters<typeof createCollider>[0]> {
  const friction = parts.has('friction') ? number(parts.get('friction')!, '') : undefined;
  const clearance = parts.has('clearance') ? number(parts.get('clearance')!, 'mm') : undefined;
  return {
    ...(shape.kind === 'ground' && { friction: 0.5, clearance: 0.002 }),
    ...(friction !== undefined && { friction }),
    ...(clearance !== undefined && { clearance }),
  };
}

function refuse(parts: Parts, unfit: Part[], why: string): object {
  const found = unfit.find((part) => parts.has(part));
  if (found) throw new Error(`${why} ${found === 'rest' ? 'a rest size' : found}.`);
  return {};
}

function windLine(parts: Parts): TypedLine {
  const speed = number(parts.get('numbers') ?? '', 'm/s', 'Wind needs its speed, for example “wind 4 towards 90”.');
  const heading = parts.has('towards') ? number(parts.get('towards')!, '°') : undefined;
  const rise = parts.has('rise') ? number(parts.get('rise')!, '°') : undefined;
  const gusts = parts
    .get('gusts')
    ?.split(',')
    .map((part) => part.trim());
  const gustDepth = gusts?.[0] ? number(gusts[0], '%') : undefined;
  const gustPeriod = gusts?.[1] ? number(gusts[1], 's') : undefined;
  return {
    summary: `Wind of ${speed} m/s`,
    apply: (draft) => {
      const given = { enabled: true, speed, heading, rise, gustDepth, gustPeriod };
      Object.assign(draft.wind, Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)));
      return [];
    },
  };
}

function cardOf(text: string | undefined, isCloth: boolean) {
  if (text === undefined) return undefined;
  if (!isCloth) throw new Error('Only cloth is made of a fabric.');
  const wanted = text.toLowerCase();
  const card =
    SWATCH_BOOK.find(({ name }) => name.toLowerCase() === wanted) ??
    SWATCH_BOOK.find(({ name }) => name.toLowerCase().includes(wanted));
  if (!card)
    throw new Error(
      `“${text}” is not in the swatch book. It has ${SWATCH_BOOK.map(({ name }) => name.toLowerCase()).join(', ')}.`,
    );
  return card;
}

function example(head: string, { least }: Kind): string {
  return `${head} ${['0.4', '0.3', '0.02'].slice(0, least).join(' × ')}`;
}
