import type { z } from 'zod';
import type { Vector3 } from '../math/vector';

type KindSchema = z.ZodObject<{ kind: z.ZodLiteral<string> }>;

/** The numbers of air at a moment, by their names; SI. */
export type AirNumbers = Readonly<Record<string, number>>;

/** Writes the velocity of air at a place in its own axes, in m, to the first three of `out`, in m/s in those axes. */
export type Stream = (x: number, y: number, z: number, out: Float64Array) => void;

/** What draws or holds a point at a place in its own axes, in m. */
export interface Pull {
  /**
   * Writes what it does to a point of cloth of so many kg/m²: acceleration x y z in m/s² in its own axes, then by how many m/s² it brakes
   * what moves otherwise than it does.
   */
  (x: number, y: number, z: number, weight: number, out: Float64Array): void;
}

/** All that Lumbra knows of a kind of air. Document, form, keys, typed line, physics and the arrows in the view follow from it. */
export interface AirKind<Schema extends KindSchema = KindSchema, Numbers = AirNumbers> {
  label: string;
  /** One line: what it does. */
  help: string;
  /** Words that begin a typed line, in small letters. */
  words: readonly string[];
  /** Its numbers, with their labels, limits and defaults; the first is the one that a typed line begins with. */
  schema: Schema;
  /** The same everywhere: its place does not matter. */
  even?: true;
  /** Its direction matters: it blows along its own z. */
  aims?: true;
  /** It goes round its own y, from z to x; all others blow along their own z. */
  goesRound?: true;
  /** How the air moves, before gusts and eddies; left out where it does not move air. */
  flow?: (numbers: Numbers) => Stream;
  /** Speed of eddies at a place in its own axes, in m/s, for a kind that is nothing but eddies. */
  eddies?: (numbers: Numbers) => (x: number, y: number, z: number) => number;
  /** What pulls at points; left out where nothing does. */
  pull?: (numbers: Numbers) => Pull;
  /** The largest acceleration in m/s² that its pull gives cloth of so many kg/m². */
  strongest?: (numbers: Numbers, weight: number) => number;
  /** Places in its own axes, in m, where arrows show it. */
  shownAt: (numbers: Numbers) => Vector3[];
  /** How far it reaches, drawn as lines: places in its own axes two by two, in m. */
  outline: (numbers: Numbers) => Vector3[];
}

/** Declares a kind of air. */
export function airKind<Schema extends KindSchema>(
  declared: AirKind<Schema, z.infer<Schema>>,
): AirKind<Schema, z.infer<Schema>> {
  return declared;
}

/** Rises from 0 to 1 without a kink while `share` goes from 0 to 1. */
export function soft(share: number): number {
  if (share <= 0) return 0;
  if (share >= 1) return 1;
  return share * share * (3 - 2 * share);
}
