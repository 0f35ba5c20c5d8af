// A point that may meet the collider before the next gathering.
export const BYTES = 32;
/** u32: byte offset of the point. */
export const POINT = 0;
/** f32, in m: distance when last measured, and how far the collider had moved then. */
export const DISTANCE = 4;
export const TRAVEL = 8;
/** u32: address of the triangle of a mesh that was nearest. */
export const TRIANGLE = 12;
/** f32 x 4: the place that was measured. */
export const PLACE = 16;
