import { z } from 'zod';
import { SWATCH_BOOK } from '../fabric/swatchBook';
import { parseQuantity, type Unit } from '../quantity/units';
import { createCloth, createCollider, createPeg, createScenery } from './create';
import { freeName } from './names';
import { describeIssue } from './readShot';
import type { Shot, Thing } from './schema';
import type { Shape } from './shapes';

// Things and air in a line of words: “box 0.95 × 0.5 × 0.62 at −0.1, 0, 0 turned 0, 6, 0”. For those who have the numbers at hand, and
// for those who work by keyboard.

export interface TypedLine {
  /** What was understood, in words, for the artist to see before it is done. */
  summary: string;
  /** Does it, in a recipe of `edit`; returns the ids of new things. */
  apply: (draft: Shot) => string[];
}

export type TypedResult = { ok: true; line: TypedLine } | { ok: false; reason: string };

interface Kind {
  words: string[];
  /** What the numbers after the word mean, for the example and the message. */
  numbers: string;
  least: number;
  shape: (n: number[]) => Shape;
  /** From the thing's origin to its foot, in m. */
  foot: (n: number[]) => number;
}

const SEGMENTS = { cylinder: 32, ring: 48, tube: 48, cone: 40, capsule: 32, knot: 160 };
const KINDS: Record<string, Kind> = {
  Sheet: {
    words: ['sheet', 'cloth'],
    numbers: 'width × height',
    least: 2,
    shape: ([width, height]) => ({
      kind: 'sheet',
      width: width!,
      height: height!,
      spacing: Math.max(width!, height!) / 60,
    }),
    foot: () => 0,
  },
  Box: {
    words: ['box'],
    numbers: 'width × height × depth',
    least: 3,
    shape: ([width, height, depth]) => ({ kind: 'box', width: width!, height: height!, depth: depth! }),
    foot: ([, height]) => height! / 2,
  },
  Ball: {
    words: ['ball'],
    numbers: 'diameter',
    least: 1,
    shape: ([across]) => ({ kind: 'ball', radius: across! / 2, detail: 3 }),
    foot: ([across]) => across! / 2,
  },
  Cylinder: {
    words: ['cylinder', 'post', 'pole'],
    numbers: 'diameter × height',
    least: 2,
    shape: ([across, height]) => ({
      kind: 'cylinder',
      radius: across! / 2,
      height: height!,
      segments: SEGMENTS.cylinder,
    }),
    foot: ([, height]) => height! / 2,
  },
  Capsule: {
    words: ['capsule'],
    numbers: 'diameter × height',
    least: 2,
    shape: ([across, height]) => ({
      kind: 'capsule',
      radius: across! / 2,
      height: height!,
      segments: SEGMENTS.capsule,
    }),
    foot: ([, height]) => height! / 2,
  },
  Cone: {
    words: ['cone'],
    numbers: 'diameter × height',
    least: 2,
    shape: ([across, height]) => ({
      kind: 'cone',
      radius: across! / 2,
      topRadius: 0,
      height: height!,
      segments: SEGMENTS.cone,
    }),
    foot: ([, height]) => height! / 2,
  },
  Tube: {
    words: ['tube', 'pipe'],
    numbers: 'diameter × height × wall',
    least: 3,
    shape: ([across, height, wall]) => ({
      ...{ kind: 'tube', radius: across! / 2, wall: wall!, height: height!, segments: SEGMENTS.tube },
    }),
    foot: ([, height]) => height! / 2,
  },
  Ring: {
    words: ['ring'],
    numbers: 'diameter × thickness',
    least: 2,
    shape: ([across, thick]) => ({
      ...{ kind: 'ring', radius: (across! - thick!) / 2, tubeRadius: thick! / 2, segments: SEGMENTS.ring },
    }),
    foot: ([, thick]) => thick! / 2,
  },
  Knot: {
    words: ['knot'],
    numbers: 'diameter × thickness',
    least: 2,
    shape: ([across, thick]) => ({
      ...{ kind: 'knot', radius: across! / 2 / 1.45, tubeRadius: thick! / 2, windings: 3, segments: SEGMENTS.knot },
    }),
    foot: ([across, thick]) => (across! / 2 / 1.45) * 0.45 + thick! / 2,
  },
  Ground: { words: ['ground'], numbers: '', least: 0, shape: () => ({ kind: 'ground' }), foot: () => 0 },
};
const PEG_WORDS = ['peg'];
/** Words that begin a part of the line, in any order. */
const PARTS = ['at', 'turned', 'every', 'of', 'as', 'towards', 'rise', 'gusts', 'named'] as const;
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
  const isPeg = PEG_WORDS.includes(head);
  const [label, kind] = Object.entries(KINDS).find(([, { words }]) => words.includes(head)) ?? [
    isPeg ? 'Peg' : '',
    undefined,
  ];
  if (!kind && !isPeg) {
    const known = [...Object.values(KINDS).flatMap(({ words }) => words), ...PEG_WORDS, 'wind'].join(', ');
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
  const apply = (draft: Shot): string[] =>
    places.map(([x, y, z]) => {
      const given = {
        name: freeName(draft, name),
        position: [x, y + lift, z] as [number, number, number],
        rotation: turn,
      };
      const made: Thing = !shape
        ? createPeg(given)
        : isCloth
          ? createCloth({
              ...given,
              shape,
              ...(card && { card: card.id, print: { waxed: card.id === 'waxed-cotton' } }),
            })
          : role === 'scenery'
            ? createScenery({ ...given, shape })
            : createCollider({ ...given, shape, ...(shape.kind === 'ground' && { friction: 0.5, clearance: 0.002 }) });
      draft.things.push(made);
      return made.id;
    });
  // A wrong number is found now, not when it is done.
  apply({ ...shot, things: [...shot.things] });
  return { summary: summary.filter(Boolean).join(' '), apply };
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

/** Lengths apart by × or x, each with its own unit; one at the end holds for all that have none. */
function lengths(text: string, unit: Unit = 'm'): number[] {
  if (text === '') return [];
  const given = text.split(/\s*[×x*]\s*/i);
  const last = /[a-z"'′″]+$/i.exec(given.at(-1)!)?.[0];
  return given.map((part) => number(/[a-z"'′″]$/i.test(part) || !last ? part : `${part} ${last}`, unit));
}

function angles(text: string): [number, number, number] {
  if (text === '') return [0, 0, 0];
  const values = text.split(',').map((part) => number(part, '°'));
  // One angle turns about the upright axis, as things on a floor are turned.
  return values.length === 1 ? [0, values[0]!, 0] : [values[0]!, values[1] ?? 0, values[2] ?? 0];
}

/** Places from “x, y, z”; with ± one for each combination of signs. */
function placesOf(text: string): [number, number, number][] {
  const given = text.split(',').map((part) => part.trim());
  if (given.length !== 3) throw new Error('“at” needs three numbers: x, y, z.');
  let places: number[][] = [[]];
  for (const part of given) {
    const both = part.startsWith('±');
    const value = number(both ? part.slice(1) : part, 'm');
    places = places.flatMap((place) => (both ? [-value, value] : [value]).map((v) => [...place, v]));
  }
  return places as [number, number, number][];
}

function number(text: string, unit: Unit, missing?: string): number {
  if (text.trim() === '' && missing) throw new Error(missing);
  const parsed = parseQuantity(text, unit);
  if (!parsed.ok) throw new Error(parsed.reason);
  return parsed.value;
}
