// A point that is tied to a face of cloth; see assembly/hold.ts.
export const BYTES = 48;
/** u32: byte offset of the point. */
export const POINT = 0;
/** u32: byte offsets of the face's corners. */
export const CORNER_0 = 4;
export const CORNER_1 = 8;
export const CORNER_2 = 12;
/** f32: how the corners weigh in. */
export const WEIGHT_0 = 16;
export const WEIGHT_1 = 20;
export const WEIGHT_2 = 24;
/** f32: the share of its way that the tie goes in a substep; 1 for a firm one. */
export const GIVE = 28;
/** f32, in m: the length that it keeps. */
export const LENGTH = 32;
