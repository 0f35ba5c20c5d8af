// How one cloth meets another, or itself: a square of them, row by row. Distance and friction are negative where they are as the triangles
// have them.
export const BYTES = 16;
/** u32: 1 when they touch. */
export const TOUCHES = 0;
/** f32, in m: the distance that they keep. */
export const DISTANCE = 4;
/** f32. */
export const FRICTION = 8;
