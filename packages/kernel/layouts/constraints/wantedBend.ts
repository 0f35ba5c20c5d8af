// How a hinge that is flat as cut wants to be bent, beside its flatHinge; see assembly/bendCurled.ts. Lengths of the bend vector,
// 2 sin(angle / 2), positive where the far points are to rise towards the normal.
export const BYTES = 16;
/** f32: what the fabric's own curl gives. */
export const CURL = 0;
/** f32: what creases add. */
export const CREASE = 4;
/** f32: share of a fold that stays. */
export const KEEPS = 8;
