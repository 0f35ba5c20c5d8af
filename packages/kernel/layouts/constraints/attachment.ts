// A point that is never farther from a held point than the cloth between them is long; see assembly/attachment.ts.
export const BYTES = 16;
/** u32: byte offsets of the point and of the held point. */
export const POINT = 0;
export const HELD = 4;
/** f32: the greatest distance in m. */
export const DISTANCE = 8;
/** u32: byte offset of the f32 that it is scaled by, in the list of scales. */
export const SCALE = 12;
