import type { z } from 'zod';

type KindSchema = z.ZodObject<{ kind: z.ZodLiteral<string> }>;

/** A cloth as it is when cues are looked at: at the end of a frame, before the next. */
export interface CueMoment {
  /** The frame that comes next. */
  frame: number;
  /** x y z of each point in m, and its velocity in m/s. */
  positions: Float32Array;
  velocities: Float32Array;
  /** Per point, how far it is stretched along warp or weft, where more: the mean of the faces around it. 0.02 is 2 %. */
  stretch: () => Float64Array;
  /** What a mask is worth per point, 0 to 1; null where there is no such mask. */
  mask: (id: string | null) => Float32Array | null;
  /** How far a point is from where a thing stops it, in m, or infinity where that is surely more than `most`; null where there is no such thing. */
  distanceTo: (thing: string | null, most: number) => ((point: number) => number) | null;
  /** Whether a point is inside of a thing; null where there is no such thing. */
  isInside: (thing: string | null) => ((point: number) => boolean) | null;
  /** Whether a hold has let go of a point by this frame; null where there is no such hold, or it never lets go. */
  isReleased: (hold: string | null) => ((point: number) => boolean) | null;
}

/** All that Lumbra knows of something that a cue can wait for. Document, form and run follow from it. */
export interface CueWhen<Schema extends KindSchema = KindSchema, When = z.infer<Schema>> {
  label: string;
  /** Words for it in a typed line, in small letters. */
  words: readonly string[];
  /** One line: when it happens. */
  help: string;
  /** Its numbers; entries called `thing`, `mask` and `hold` have an id, or null until one is chosen. */
  schema: Schema;
  /** Tells of a point whether it happens to it. Exact arithmetic: the same on any machine. */
  happens: (when: When, moment: CueMoment) => (point: number) => boolean;
}

/** Declares something to wait for. */
export function cueWhen<Schema extends KindSchema>(
  declared: CueWhen<Schema, z.infer<Schema>>,
): CueWhen<Schema, z.infer<Schema>> {
  return declared;
}

/** The square of the speed of a point, in m²/s². */
export function squaredSpeed({ velocities: v }: CueMoment, point: number): number {
  const [x, y, z] = [v[point * 3]!, v[point * 3 + 1]!, v[point * 3 + 2]!];
  return x * x + y * y + z * z;
}

/** It happens to no point. */
export const never = (): boolean => false;
