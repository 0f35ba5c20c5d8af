import { SWATCH_BOOK } from '../../fabric/swatchBook';
import { AIR_KIND_NAMES, AIR_KINDS } from '../../air/kinds';
import { quantitiesOf } from '../../quantity/quantity';
import { formatQuantity } from '../../quantity/units';
import { SHAPE_KINDS, SHAPES } from '../shapes';
import { printSchema } from '../things';
import { CUE_EXAMPLE } from './cueTyped';
import { PINNED_PLACES, TIED_PLACES } from './holdsTyped';
import { kindNamed, MOUNT_WORDS, PARTS, ROLES, type Part } from './parts';
import { example, namedSizes } from './sizes';

/** At most so many lines are offered. */
const MOST_OFFERED = 8;

/** What follows a part: where these are known, they are offered. */
const AFTER: Partial<Record<Part, readonly string[]>> = {
  of: SWATCH_BOOK.map(({ name }) => name.toLowerCase()),
  as: ROLES,
  print: printSchema.shape.kind.unwrap().options,
  at: ['0, 0, 0'],
  pinned: PINNED_PLACES,
  tied: TIED_PLACES,
};

/**
 * How a line could go on from what is typed: whole lines, the likeliest first. Things to begin with, then sizes by name, then the words that
 * begin a part and what is known to follow them.
 */
export function offersFor(text: string): string[] {
  const typed = text.replace(/\s+/g, ' ').trimStart();
  const words = typed.split(' ');
  const begun = words.at(-1)!.toLowerCase();
  const before = words.slice(0, -1).join(' ');
  if (before === '')
    return heads()
      .filter((head) => head.startsWith(begun))
      .slice(0, MOST_OFFERED);
  const part = [...words.slice(0, -1)].reverse().find((word) => PARTS.includes(word.toLowerCase() as Part));
  const said = new Set(words.slice(0, -1).map((word) => word.toLowerCase()));
  if (said.has('named')) return [];
  const after = AFTER[part?.toLowerCase() as Part] ?? [];
  // A fabric may have several words.
  const since = part ? typed.slice(typed.lastIndexOf(` ${part} `) + part.length + 2).toLowerCase() : '';
  const whole = after.filter((word) => word.startsWith(since) && word !== since);
  if (whole.length > 0)
    return whole.slice(0, MOST_OFFERED).map((word) => `${typed.slice(0, typed.length - since.length)}${word}`);
  const kind = kindNamed(words[0]!.toLowerCase());
  const sizes = kind && !part ? [...namedSizes(kind).keys()].filter((name) => /^[a-z]+$/.test(name)) : [];
  const next = [...sizes, ...PARTS].filter((word) => !said.has(word) && word.startsWith(begun) && word !== begun);
  return begun === '' ? [] : next.slice(0, MOST_OFFERED).map((word) => `${before} ${word}`);
}

/** How lines begin: each kind with its sizes as of a new one. */
function heads(): string[] {
  const shapes = SHAPE_KINDS.flatMap((kind) => SHAPES[kind].words.map((word) => example(kind, word)));
  const air = AIR_KIND_NAMES.flatMap((kind) => {
    const { words, schema, aims } = AIR_KINDS[kind];
    const [first] = Object.values(quantitiesOf(schema));
    return words.map((word) => `${word} ${formatQuantity(first!.default, first!.unit)}${aims ? ' towards 90' : ''}`);
  });
  return [...shapes, ...MOUNT_WORDS, ...air, CUE_EXAMPLE];
}
