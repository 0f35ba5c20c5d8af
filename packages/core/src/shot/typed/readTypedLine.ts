import { z } from 'zod';
import { fabricSchema, type Fabric } from '../../fabric/fabric';
import { SWATCH_BOOK } from '../../fabric/swatchBook';
import { AIR_KINDS, type AirKindName } from '../../air/kinds';
import { quantitiesOf, quantityOf, type Quantity } from '../../quantity/quantity';
import { formatQuantity } from '../../quantity/units';
import { createAir, createCloth, createCollider, createMount, createScenery } from '../create';
import { freeName } from '../names';
import { describeIssue } from '../readShot';
import { footOf } from '../foot';
import { shapeSize } from '../resize';
import type { Cloth, Shot, Thing } from '../schema';
import { printSchema } from '../things';
import { SHAPE_KINDS, SHAPES, type Assets, type Shape } from '../shapes';
import { CUE_WORD, cueLine } from './cueTyped';
import { angles, number, placesOf, valuesOf } from './numbers';
import { AIR_WORDS, airNamed, kindNamed, MOUNT_WORDS, partsOf, ROLES, type Part, type Parts } from './parts';
import { thingNamed, typedPins, typedTies } from './holdsTyped';
import { readSizes, splitNames } from './sizes';
import type { TypedLine } from './typedLine';

// Things, air and cues in a line of words: “box 0.95 × 0.5 × 0.62 at −0.1, 0, 0 turned 0, 6, 0”. For those who have the numbers at hand, and
// for those who work by keyboard.

export type TypedResult = { ok: true; line: TypedLine } | { ok: false; reason: string };

export const TYPED_EXAMPLE = 'box 0.95 × 0.5 × 0.62 at 0, 0, 0';

/**
 * Reads a line. Sizes come in the order of the shape’s declaration or by their names, and may be left out; they may stand apart by ×, x,
 * “by”, commas or spaces. Lengths are in m unless they carry a unit, angles in degrees. `at` is where it stands, its lowest place when turned; “±” in
 * front of a coordinate makes it twice, once on either side. Never throws: what is not understood is said.
 */
export function readTypedLine(text: string, shot: Shot, assets: Assets = new Map()): TypedResult {
  const cleaned = text
    .trim()
    .replace(/\u2212/g, '-')
    .replace(/\+\s*[-/]\s*/g, '±');
  if (cleaned === '') return { ok: false, reason: `Type what to add, for example “${TYPED_EXAMPLE}”.` };
  const words = cleaned.split(/\s+/);
  const head = words[0]!.toLowerCase();
  const parts = partsOf(words.slice(1));
  try {
    if (head === CUE_WORD) return { ok: true, line: cueLine(words.slice(1).join(' '), shot) };
    const air = airNamed(head);
    if (air) return { ok: true, line: airLine(air, parts, shot) };
    return { ok: true, line: thingLine(head, parts, shot, assets) };
  } catch (error) {
    if (error instanceof z.ZodError)
      return { ok: false, reason: `This cannot be: ${describeIssue(error.issues[0]!)}.` };
    return { ok: false, reason: error instanceof Error ? error.message : String(error) };
  }
}

function thingLine(head: string, parts: Parts, shot: Shot, assets: Assets): TypedLine {
  const kind = kindNamed(head);
  if (!kind && !MOUNT_WORDS.includes(head as never)) {
    const known = [...SHAPE_KINDS.flatMap((one) => SHAPES[one].words), ...MOUNT_WORDS, ...AIR_WORDS, CUE_WORD].join(
      ', ',
    );
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
  const lift = shape ? footOf(shape, new Map(), turn) : 0;
  const size = shape && shapeSize(shape, new Map());
  const name = parts.get('named') || label;
  const summary = [
    places.length > 1 ? `${places.length} × ${name}` : name,
    size ? `of ${size.map(rounded).filter(Boolean).join(' × ')} m` : '',
    card ? `of ${card.name.toLowerCase()}` : '',
    role ? `as ${role}` : '',
    ...(['pinned', 'tied', 'rides'] as const).map((part) => (parts.has(part) ? `${part} ${parts.get(part)}` : '')),
    `at ${places.map((place) => place.map(rounded).join(', ')).join(' and ')}`,
  ];
  const forCloth = isCloth
    ? clothParts(parts, card)
    : refuse(parts, [...PAIR_PARTS, 'print', 'pinned', 'tied'], 'Only cloth has');
  const hold = holdParts(parts, shot, assets);
  const parent = carrierOf(parts, shot);
  const isCollider = shape !== undefined && !isCloth && role !== 'scenery';
  const touch = isCollider ? touchParts(parts, shape) : refuse(parts, ['friction', 'clearance'], 'Only a collider has');
  const apply = (draft: Shot): string[] =>
    places.map(([x, y, z]) => {
      const given = {
        name: freeName(draft, name),
        position: [x, y + lift, z] as [number, number, number],
        rotation: turn,
        parent,
      };
      let made: Thing;
      if (!shape) made = createMount(given);
      else if (isCloth) made = hold(createCloth({ ...given, shape, ...forCloth }));
      else if (isCollider) made = createCollider({ ...given, shape, ...touch });
      else made = createScenery({ ...given, shape });
      draft.things.push(made);
      return made.id;
    });
  // A wrong number is found now, not when it is done.
  apply({ ...shot, things: [...shot.things] });
  return { summary: summary.filter(Boolean).join(' '), apply };
}

/** Parts that give a number of the fabric along the warp, and one along the weft. */
const PAIRS = {
  rest: ['restWarp', 'restWeft'],
  bend: ['bendWarp', 'bendWeft'],
  curl: ['curlWarp', 'curlWeft'],
} as const;
const PAIR_PARTS = ['rest', 'bend', 'curl'] as const;

/** What is said of a cloth: “of canvas rest 102 × 103 % print stripe 50 cm #E9DFC6 #A9503B”. */
function clothParts(parts: Parts, card: ReturnType<typeof cardOf>): Partial<Parameters<typeof createCloth>[0]> {
  const print: Partial<Cloth['print']> = { waxed: card?.id === 'waxed-cotton' };
  const words = (parts.get('print') ?? '').split(/\s+/).filter(Boolean);
  const colours = words.filter((word) => word.startsWith('#'));
  const kind = words[0]?.toLowerCase();
  if (kind !== undefined) {
    const known = printSchema.shape.kind.unwrap().options.find((one) => one === kind);
    if (!known) throw new Error(`A print is plain, stripe, check or dots, not “${kind}”.`);
    print.kind = known;
    const repeat = words.slice(1).filter((word) => !word.startsWith('#'));
    if (repeat.length > 0) print.repeat = number(repeat.join(' '), 'cm');
    if (colours[0]) print.colour = colours[0];
    if (colours[1]) print.second = colours[1];
  }
  return { ...(card && { card: card.id }), print, ...fabricParts(parts) };
}

/** Numbers of the fabric that are given by warp and weft, one for both or one each: “bend 40 × 20 curl 0 × 4”. */
function fabricParts(parts: Parts): { fabric?: Partial<Fabric> } {
  const numbers = PAIR_PARTS.flatMap((part) => {
    if (!parts.has(part)) return [];
    const [first, second] = PAIRS[part];
    const [warp, weft] = valuesOf(parts.get(part)!, quantityOf(fabricSchema.shape[first])!.unit);
    return warp === undefined ? [] : [[first, warp] as const, [second, weft ?? warp] as const];
  });
  return numbers.length > 0 ? { fabric: Object.fromEntries(numbers) } : {};
}

/** Lets a cloth be held as the line says: “pinned corners”, “tied far side to Yard”. */
function holdParts(parts: Parts, shot: Shot, assets: Assets): (cloth: Cloth) => Cloth {
  const pins = parts.has('pinned') ? typedPins(parts.get('pinned')!) : null;
  const ties = parts.has('tied') ? typedTies(parts.get('tied')!, shot, assets) : null;
  return (cloth) => ({ ...cloth, ...(pins && { pinSets: pins(cloth) }), ...(ties && { ties: ties(cloth) }) });
}

/** What it rides: “rides Ferry”. Its place is then in that thing’s axes. */
function carrierOf(parts: Parts, shot: Shot): string | null {
  if (!parts.has('rides')) return null;
  const carrier = thingNamed(parts.get('rides')!, shot, 'riding');
  if ('shape' in carrier && carrier.shape.kind === 'ground')
    throw new Error('The ground carries nothing; it never moves.');
  return carrier.id;
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
  const words: Partial<Record<Part, string>> = {
    rest: 'a rest size',
    bend: 'a bend',
    curl: 'a curl',
    pinned: 'pins',
    tied: 'ties',
  };
  if (found) throw new Error(`${why} ${words[found] ?? found}.`);
  return {};
}

/** Air: “wind 4 towards 90 rise 10 gusts 40 %, 2 s turbulence 20 %, 0.6 m”, “beam 6 width 0.5 edge 60 % at 0, 1, 0”. The number without a name is the first of its kind. */
function airLine(kind: AirKindName, parts: Parts, shot: Shot): TypedLine {
  const { label, schema, aims } = AIR_KINDS[kind];
  const [[first, quantity]] = Object.entries(quantitiesOf(schema)) as [[string, Quantity]];
  const known = new Map(Object.entries(quantitiesOf(schema)));
  const { row: typed, sizes: named } = splitNames(parts.get('numbers') ?? '', known);
  const air: Record<string, unknown> = { kind };
  if (typed) air[first] = number(typed, quantity.unit);
  for (const [key, value] of named) air[key] = number(value, known.get(key)!.unit);
  if (!aims) refuse(parts, ['towards', 'rise'], `${label} has no direction, so it has no`);
  const heading = parts.has('towards') ? number(parts.get('towards')!, '°') : Math.PI / 2;
  const rise = parts.has('rise') ? number(parts.get('rise')!, '°') : 0;
  if (parts.has('gusts')) {
    if (!('gustDepth' in schema.shape)) refuse(parts, ['gusts'], `${label} has no`);
    // Depth and period stand one after the other, with or without their units.
    const [depth, period] = /^([^,%]*%?)[,\s]*(.*)$/.exec(parts.get('gusts')!)!.slice(1) as [string, string];
    if (depth.trim()) air['gustDepth'] = number(depth, '%');
    if (period.trim()) air['gustPeriod'] = number(period, 's');
  }
  if (parts.has('turbulence')) {
    if (!('turbulence' in schema.shape)) refuse(parts, ['turbulence'], `${label} has no`);
    // Share, size and pace, by commas; those at the end may be left out.
    const values = parts.get('turbulence')!.split(',');
    (['turbulence', 'eddySize', 'eddyPace'] as const).forEach((name, i) => {
      if (values[i]?.trim()) air[name] = number(values[i], quantitiesOf(schema)[name]!.unit);
    });
  }
  const [place] = placesOf(parts.get('at') ?? (aims ? '-1.2, 1.6, 0' : '0, 1, 0'));
  const name = parts.get('named') || label;
  const parent = carrierOf(parts, shot);
  const apply = (draft: Shot): string[] => {
    const made = createAir({
      parent,
      name: freeName(draft, name),
      position: [place![0], place![1], place![2]],
      rotation: aims ? [rise === 0 ? 0 : -rise, heading, 0] : angles(parts.get('turned') ?? ''),
      air: air as never,
    });
    draft.things.push(made);
    return [made.id];
  };
  // A wrong number is found now, not when it is done.
  apply({ ...shot, things: [...shot.things] });
  const of = typed ? ` of ${formatQuantity(air[first] as number, quantity.unit)} ${quantity.unit}` : '';
  return { summary: `${name}${of}`, apply };
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
