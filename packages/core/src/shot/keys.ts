import { z } from 'zod';
import type { Vector3 } from '../math/vector';

// Keys: how a number changes over the shot. A track belongs to one number of a thing and has knots in order of frames;
// before the first and after the last the number keeps their values.

export const KEYED_NUMBERS = [
  'position.x',
  'position.y',
  'position.z',
  'rotation.x',
  'rotation.y',
  'rotation.z',
] as const;

export const EASES = ['hold', 'linear', 'smooth'] as const;

export const knotSchema = z.strictObject({
  frame: z.number().min(-10_000).max(100_000),
  value: z.number().min(-1e6).max(1e6).describe('In metres or radians.'),
  ease: z.enum(EASES).default('smooth').describe('How it goes on to the next knot.'),
});

export const trackSchema = z
  .strictObject({
    number: z.enum(KEYED_NUMBERS),
    knots: z.array(knotSchema).min(1),
  })
  .superRefine(({ knots }, context) => {
    for (let i = 1; i < knots.length; i++) {
      if (knots[i]!.frame <= knots[i - 1]!.frame) {
        context.addIssue({
          code: 'custom',
          path: ['knots', i, 'frame'],
          message: 'must come after the knot before it',
        });
      }
    }
  });

export const keysSchema = z.array(trackSchema).superRefine((tracks, context) => {
  const seen = new Set<string>();
  tracks.forEach(({ number }, i) => {
    if (seen.has(number))
      context.addIssue({ code: 'custom', path: [i, 'number'], message: `“${number}” is keyed twice` });
    seen.add(number);
  });
});

export type Knot = z.infer<typeof knotSchema>;
export type Track = z.infer<typeof trackSchema>;
export type KeyedNumber = (typeof KEYED_NUMBERS)[number];

/** The value of a track at a frame, which need not be whole. Exact arithmetic, so the same everywhere. */
export function trackValue({ knots }: Track, frame: number): number {
  const after = knots.findIndex((knot) => knot.frame > frame);
  if (after === 0) return knots[0]!.value;
  if (after < 0) return knots.at(-1)!.value;
  const [from, to] = [knots[after - 1]!, knots[after]!];
  if (from.ease === 'hold') return from.value;
  const share = (frame - from.frame) / (to.frame - from.frame);
  const eased = from.ease === 'smooth' ? share * share * (3 - 2 * share) : share;
  return from.value + (to.value - from.value) * eased;
}

/** Place and turn of a thing at a frame. */
export function placementAt(
  thing: { position: readonly number[]; rotation: readonly number[]; keys: readonly Track[] },
  frame: number,
): { position: Vector3; rotation: Vector3 } {
  const of = (what: 'position' | 'rotation'): Vector3 => {
    const values = ['x', 'y', 'z'].map((axis, i) => {
      const track = thing.keys.find(({ number }) => number === `${what}.${axis}`);
      return track ? trackValue(track, frame) : thing[what][i]!;
    });
    return [values[0]!, values[1]!, values[2]!];
  };
  return { position: of('position'), rotation: of('rotation') };
}

/** The same thing without keys, in its place at a frame. */
export function heldAt<T extends Parameters<typeof placementAt>[0]>(thing: T, frame: number): T {
  return thing.keys.length === 0 ? thing : { ...thing, ...placementAt(thing, frame), keys: [] };
}
