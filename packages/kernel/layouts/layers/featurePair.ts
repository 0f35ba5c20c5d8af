// Two features of cloth that may meet: a point and a triangle, or two edges; see assembly/layers/pairs.ts.
export const BYTES = 64;
/** u32: byte offsets of the points, those of the first feature first. */
export const POINT_0 = 0;
export const POINT_1 = 4;
export const POINT_2 = 8;
export const POINT_3 = 12;
/** f32 x 3: from the second feature to the first. */
export const NORMAL = 16;
/** f32, in m: the distance to keep. */
export const DISTANCE = 28;
/** f32 x 4: of the first feature positive, of the second negative, each summing to 1. */
export const WEIGHTS = 32;
/** f32, in m: how far they were apart along the normal when last measured. */
export const GAP = 48;
/** i32: one of those below. */
export const KIND = 52;
/** i32: the substep of the horizon from which it needs a look, when listed; afterwards that its normal is of. */
export const STEP = 56;
/** f32. */
export const FRICTION = 60;

export const KIND_POINT_TRIANGLE = 0;
export const KIND_EDGES = 1;
