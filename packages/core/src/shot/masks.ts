import { z } from 'zod';
import { quantity } from '../quantity/quantity';
import { id, MOST } from './ids';

// Masks: 0 to 100 % per point of a cloth. In the document each is a text of one byte a point in base64, so that a mask of
// 40,000 points is one value to the undo list and to validation; or a ramp, which is computed. What a mask is worth at a frame:
// maskValues.ts.

const share = z.tuple([z.number().min(-10).max(10), z.number().min(-10).max(10)]);

export const rampSchema = z.strictObject({
  kind: z.enum(['straight', 'round']),
  from: share.describe('Where it is 100 %, or the middle of a round one: shares of the fabric’s width and height.'),
  to: share.describe('Where it has come to 0 %.'),
  waves: z.boolean().default(false).describe('Whether it rises and falls again and again, instead of once.'),
  inverted: z.boolean().default(false).describe('Whether it is 0 % where it would be 100 %, and the other way round.'),
  phase: quantity({
    label: 'Phase',
    help: 'How far the ramp is shifted along itself: at 100 % it has gone on by its own length. Keyed, it travels over the cloth.',
    unit: '%',
    min: -20,
    max: 20,
    default: 0,
    step: 0.01,
    keyable: true,
  }),
});

export type Ramp = z.infer<typeof rampSchema>;

export const maskSchema = z.strictObject({
  id,
  name: z.string().min(1).max(120),
  values: z
    .string()
    .max(Math.ceil(MOST.points / 3) * 4)
    .regex(/^[A-Za-z0-9+/]*={0,2}$/, 'must be base64')
    .default('')
    .describe('A byte a point in base64: 0 is 0 %, 255 is 100 %. Empty for a ramp.'),
  ramp: rampSchema.nullable().default(null).describe('What the mask is computed from, where it is not painted.'),
});

export type Mask = z.infer<typeof maskSchema>;

/** The name of a mask's number among those of its cloth: “mask:abc.phase”. */
export const maskNumber = (mask: string, number: string): string => `mask:${mask}.${number}`;

/** The values of a painted mask, a byte a point: 255 is 100 %. */
export function readMask(mask: Pick<Mask, 'values'>): Uint8Array<ArrayBuffer> {
  const text = atob(mask.values);
  return Uint8Array.from(text, (letter) => letter.charCodeAt(0));
}

/** The text of a mask's values. */
export function writeMask(values: Uint8Array): string {
  let text = '';
  // In pieces: an argument list has its limits.
  for (let at = 0; at < values.length; at += 8192) text += String.fromCharCode(...values.subarray(at, at + 8192));
  return btoa(text);
}
