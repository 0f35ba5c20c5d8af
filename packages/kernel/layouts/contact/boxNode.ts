// A node of a tree of boxes; see assembly/boxWalk.ts.
export const BYTES = 32;
/** f32 x 3. */
export const LOW = 0;
export const HIGH = 12;
/** u32: of a leaf its first triangle; else its left child, the right one is the next. */
export const FIRST = 24;
/** i32: how many triangles; 0 for an inner node. */
export const COUNT = 28;
