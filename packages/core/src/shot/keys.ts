import { z } from 'zod';
import { MOST } from './ids';

// Keys: how a number changes over the shot. A track belongs to one number of its owner and has knots in order of frames;
// before the first and after the last the number keeps their values. Which numbers can be keyed: keyable.ts.

export const EASES = ['hold', 'linear', 'smooth'] as const;

export const knotSchema = z.strictObject({
  frame: z.number().min(-10_000).max(100_000),
  value: z.number().min(-1e6).max(1e6).describe('In SI units.'),
  ease: z.enum(EASES).default('smooth').describe('How it goes on to the next knot.'),
});

export const trackSchema = z
  .strictObject({
    number: z.string().min(1).max(120).describe('Which number, such as position.x or fabric.restWarp.'),
    knots: z.array(knotSchema).min(1).max(MOST.knots),
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

export const keysSchema = z
  .array(trackSchema)
  .max(MOST.tracks)
  .superRefine((tracks, context) => {
    const seen = new Set<string>();
    tracks.forEach(({ number }, i) => {
      if (seen.has(number))
        context.addIssue({ code: 'custom', path: [i, 'number'], message: `“${number}” is keyed twice` });
      seen.add(number);
    });
  });

export type Ease = (typeof EASES)[number];
export type Knot = z.infer<typeof knotSchema>;
export type Track = z.infer<typeof trackSchema>;

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

/** Something whose numbers can be keyed: a thing, or the shot itself for its gravity. */
export interface KeyOwner {
  keys: readonly Track[];
}

export function trackOf(owner: KeyOwner, number: string): Track | undefined {
  return owner.keys.find((track) => track.number === number);
}

/** A number of its owner at a frame, keyed or not. */
export function valueAt(owner: KeyOwner, number: string, frame: number): number {
  const track = trackOf(owner, number);
  return track ? trackValue(track, frame) : constantOf(owner, number);
}

/** The number as it stands in the document, without its keys: “position.x”, “fabric.restWarp”. */
export function constantOf(owner: object, number: string): number {
  const { target, key } = reach(owner, number);
  return target[key]!;
}

/** Writes a number into a draft of its owner, beside its keys. */
export function setConstant(owner: object, number: string, value: number): void {
  const { target, key } = reach(owner, number);
  target[key] = value;
}

function reach(owner: object, number: string): { target: Record<string, number>; key: string } {
  const inPart = /^(hold|mask|finish):([^.]+)\.(.+)$/.exec(number);
  if (inPart) {
    const [, kind, id, rest] = inPart as unknown as [string, keyof typeof PARTS, string, string];
    return reach(PARTS[kind](owner as Holder, id), rest);
  }
  const [first, second] = number.split('.') as [string, string?];
  if (second === undefined) return { target: owner as Record<string, number>, key: first };
  const axis = ['x', 'y', 'z'].indexOf(second);
  const target = (owner as Record<string, Record<string, number>>)[first]!;
  return { target, key: axis < 0 ? second : String(axis) };
}

const PARTS = { hold: holdOf, mask: rampOf, finish: stepOf };

interface Holder {
  pinSets: readonly { id: string }[];
  ties: readonly { id: string }[];
  leashes: readonly { id: string }[];
  masks: readonly { id: string; ramp: object | null }[];
  finish: readonly { id: string; step: object }[];
}

function stepOf({ finish }: Holder, id: string): object {
  return finish.find((entry) => entry.id === id)!.step;
}

function rampOf({ masks }: Holder, id: string): object {
  return masks.find((mask) => mask.id === id)!.ramp!;
}

function holdOf({ pinSets, ties, leashes }: Holder, id: string): object {
  return [...pinSets, ...ties, ...leashes].find((hold) => hold.id === id)!;
}
