import { z } from 'zod';

// Masks: 0 to 100 % per point of a cloth. In the document each is a text of one byte a point in base64, so that a mask of
// 40,000 points is one value to the undo list and to validation.

export const maskSchema = z.strictObject({
  id: z.string().min(1).max(64),
  name: z.string().min(1).max(120),
  values: z
    .string()
    .regex(/^[A-Za-z0-9+/]*={0,2}$/, 'must be base64')
    .describe('A byte a point in base64: 0 is 0 %, 255 is 100 %.'),
});

export type Mask = z.infer<typeof maskSchema>;

/** The values of a mask, a byte a point: 255 is 100 %. */
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
