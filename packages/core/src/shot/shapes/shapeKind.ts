import type { z } from 'zod';
import type { Pose } from '../../math/pose';
import type { Vector3 } from '../../math/vector';
import type { Mesh } from '../../mesh/mesh';
import { MOST_SHEET_POINTS } from '../../pattern/limits';
import { quantity } from '../../quantity/quantity';

/** Meshes by asset id. */
export type Assets = ReadonlyMap<string, Mesh>;

/** What cloth can meet without a mesh, exactly: around its own origin, or moved from it by `offset`. Lengths in m. */
export type ExactBody =
  | { kind: 'plane' }
  | { kind: 'ball'; radius: number; offset?: Pose }
  | { kind: 'box'; size: readonly [number, number, number]; offset?: Pose }
  | { kind: 'cylinder' | 'capsule'; radius: number; height: number; offset?: Pose };

type KindSchema = z.ZodObject<{ kind: z.ZodLiteral<string> }>;

/** All that Lumbra knows of a kind of shape. Forms, typed lines, buttons, contact, sizing and the file format follow from it. */
export interface ShapeKind<Schema extends KindSchema = KindSchema, Shape = z.infer<Schema>> {
  label: string;
  /** Its numbers, with their labels, limits and defaults. */
  schema: Schema;
  /** Words that begin a typed line, in small letters; none where it cannot be typed. */
  words: readonly string[];
  /** Its sizes in the order in which they are typed, and in which one field takes several: names of numbers of the schema. */
  sizes: readonly string[];
  /** Numbers of a new one, where they are not the defaults of the schema; null where it cannot be added by hand. */
  start: object | null;
  /** Whether a new one is cloth. */
  isCloth?: boolean;
  /**
   * Its mesh around its own origin. With `counted` it has the points and faces of that shape, whatever its own sizes: for a shape whose sizes
   * are keyed. Nothing of it may have no size then.
   */
  mesh: (shape: Shape, assets: Assets, counted?: Shape) => Mesh;
  /** So many times as large along its own x, y and z; round shapes take the mean of what concerns them. */
  resize: (shape: Shape, by: Vector3) => Shape;
  /** How far its lowest place is below its origin, in m, where its body does not say so. */
  foot?: (shape: Shape) => number;
  /** What cloth meets; left out where it meets the mesh. */
  body?: (shape: Shape) => ExactBody;
}

/** Declares a kind of shape. */
export function shapeKind<Schema extends KindSchema>(declared: ShapeKind<Schema>): ShapeKind<Schema> {
  return declared;
}

/** A length among the numbers of a shape. */
export const lengthNumber = (label: string, help: string, value: number, min = 0.001) =>
  quantity({ label, help, unit: 'm', min, max: 1000, default: value, step: 0.005 });

/** What has a size in `counted` keeps one, in m: without it faces would vanish. */
export const LEAST_SIZE = 1e-5;

/** How finely a round shape is drawn. */
export const segmentsNumber = (value: number) =>
  quantity({
    label: 'Points around',
    help: 'More make it rounder; 32 to 64 are plenty.',
    unit: '',
    min: 6,
    max: 256,
    default: value,
    step: 1,
    whole: true,
    affects: 'look',
  });

/** The distance between the points of cloth. */
export const spacingNumber = () =>
  quantity({
    label: 'Spacing',
    help: 'Distance between points. Halving it makes folds twice as fine and costs about ten times the time.',
    unit: 'mm',
    min: 0.001,
    max: 1,
    default: 0.02,
    step: 'ratio',
  });

export { MOST_SHEET_POINTS };

/** Why a spacing does not fit a piece of cloth of so many m along both sides; undefined where it does. */
export function spacingProblem(width: number, height: number, spacing: number): string | undefined {
  if (spacing > Math.min(width, height)) return 'the spacing is larger than the sheet';
  if ((width / spacing) * (height / spacing) > MOST_SHEET_POINTS)
    return `this spacing would make more than ${MOST_SHEET_POINTS} points`;
  return undefined;
}

/** How much larger a round shape gets across its axis y, when its box gets so many times as large. */
export const across = ([x, , z]: Vector3): number => Math.sqrt(x * z);
export const allAround = ([x, y, z]: Vector3): number => (x + y + z) / 3;

/** Hundredths of a millimetre are as fine as anyone works; in m. */
export function tidySize(value: number): number {
  return Math.max(0, Math.round(value * 1e5) / 1e5);
}
