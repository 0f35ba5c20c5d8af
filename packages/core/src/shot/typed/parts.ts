import { AIR_KIND_NAMES, AIR_KINDS, type AirKindName } from '../../air/kinds';
import { SHAPE_KINDS, SHAPES, type ShapeKind } from '../shapes';

// The words of a typed line.

/** Words that begin a part of the line, in any order. */
export const PARTS = [
  'at',
  'turned',
  'every',
  'of',
  'rest',
  'bend',
  'curl',
  'print',
  'as',
  'friction',
  'clearance',
  'rides',
  'pinned',
  'tied',
  'towards',
  'rise',
  'gusts',
  'turbulence',
  'named',
] as const;
export type Part = (typeof PARTS)[number];
export type Parts = Map<Part | 'numbers', string>;

export const MOUNT_WORDS = ['mount'] as const;
export const ROLES = ['cloth', 'collider', 'scenery'] as const;

export const AIR_WORDS = AIR_KIND_NAMES.flatMap((kind) => AIR_KINDS[kind].words);

/** The kind of air that a word stands for. */
export function airNamed(head: string): AirKindName | undefined {
  return AIR_KIND_NAMES.find((kind) => AIR_KINDS[kind].words.includes(head));
}

/** The kind of shape that a word stands for, also in the plural. */
export function kindNamed(head: string): ShapeKind | undefined {
  const singular = head.replace(/(?<=x)es$|s$/, '');
  return SHAPE_KINDS.find((kind) => SHAPES[kind].words.some((word) => word === head || word === singular));
}

/** What stands behind each word that begins a part; what comes first are the numbers. */
export function partsOf(words: readonly string[]): Parts {
  const parts: Parts = new Map();
  let at: Part | 'numbers' = 'numbers';
  for (const word of words) {
    const part = PARTS.find((known) => known === word.toLowerCase());
    if (part && at !== 'named') parts.set((at = part), '');
    else parts.set(at, `${parts.get(at) ?? ''} ${word}`.trim());
  }
  return parts;
}
