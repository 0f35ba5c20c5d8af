import { z } from 'zod';
import { SWATCH_BOOK } from '../../fabric/swatchBook';
import { createCloth, createCollider, createMount, createScenery } from '../create';
import { freeName } from '../names';
import { describeIssue } from '../readShot';
import { footOf } from '../foot';
import { shapeSize } from '../resize';
import type { Cloth, Shot, Thing } from '../schema';
import { SHAPE_KINDS, SHAPES, type Shape } from '../shapes';
import { angles, number, placesOf, valuesOf } from './numbers';
import { kindNamed, MOUNT_WORDS, partsOf, ROLES, type Part, type Parts } from './parts';
import { readSizes } from './sizes';

// Things and air in a line of words: “box 0.95 × 0.5 × 0.62 at −0.1, 0, 0 turned 0, 6, 0”. For those who have the numbers at hand, and
// for those who work by keyboard.

export interface TypedLine {
  /** What was understood, in words, for the artist to see before it is done. */
  summary: string;
  /** Does it, in a recipe of `edit`; returns the ids of new things. */
  apply: (draft: Shot) => string[];
}

export type TypedResult = { ok: true; line: TypedLine } | { ok: false; reason: string };

export const TYPED_EXAMPLE = 'box 0.95 × 0.5 × 0.62 at 0, 0, 0';

/**
 * Reads a line. Sizes come in the order of the shape’s declaration or by their names, and may be left out; they may stand apart by ×, x,
 * “by”, commas or spaces. Lengths are in m unless they carry a unit, angles in degrees. `at` is where the middle of its foot stands; “±” in
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

function thingLine(head: string, parts: Parts, shot: Shot): TypedLine {
  const kind = kindNamed(head);
  if (!kind && !MOUNT_WORDS.includes(head as never)) {
    const known = [...SHAPE_KINDS.flatMap((one) => SHAPES[one].words), ...MOUNT_WORDS, 'wind'].join(', ');
    throw new Error(`“${head}” is not something to add. Known are ${known}.`);
  }
  const label = kind ? SHAPES[kind].label : 'Mount';
  const role = (parts.get('as') ?? '').toLowerCase();
  if (role && !ROLES.includes(role as never)) throw new Error(`“as ${role}” is not known: cloth, collider or scenery.`);
  if (!kind && parts.get('numbers')) throw new Error('A mount has no size.');
  const shape = kind && readSizes(kind, head, parts.get('numbers') ?? '');
  if (shape && 'spacing' in shape && parts.has('every'))
    shape.spacing = valuesOf(parts.get('every')!, 'mm')[0] ?? shape.spacing;
  const isCloth = role === 'cloth' || (role === '' && kind !== undefined && SHAPES[kind].isCloth === true);
  const card = cardOf(parts.get('of'), isCloth);
  const places = placesOf(parts.get('at') ?? (shape?.kind === 'sheet' && isCloth ? '0, 1, 0' : '0, 0, 0'));
  const turn = angles(parts.get('turned') ?? '');
  const lift = shape ? footOf(shape, new Map()) : 0;
  const size = shape && shapeSize(shape, new Map());
  const name = parts.get('named') || label;
  const summary = [
    places.length > 1 ? `${places.length} × ${name}` : name,
    size ? `of ${size.map(rounded).filter(Boolean).join(' × ')} m` : '',
    card ? `of ${card.name.toLowerCase()}` : '',
    role ? `as ${role}` : '',
    `at ${places.map((place) => place.map(rounded).join(', ')).join(' and ')}`,
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
  const [restWarp, restWeft] = parts.has('rest') ? valuesOf(parts.get('rest')!, '%') : [];
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
  // Depth and period stand one after the other, with or without their units.
  const [depth, period] = /^([^,%]*%?)[,\s]*(.*)$/.exec(parts.get('gusts') ?? '')!.slice(1) as [string, string];
  const gustDepth = depth.trim() ? number(depth, '%') : undefined;
  const gustPeriod = period.trim() ? number(period, 's') : undefined;
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

/** Millimetres are enough to tell what was understood. */
function rounded(value: number): number {
  return Math.round(value * 1000) / 1000;
}
