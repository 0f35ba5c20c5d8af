// A sharp point or edge of a collider's surface; see assembly/contact/sharp.ts. Addresses are of 3 f32 each, in the collider's own axes.
export const BYTES = 32;
/** u32: addresses of its two ends. */
export const END_0 = 0;
export const END_1 = 4;
/** u32: addresses of the normals at its ends, and of that of the edge. */
export const NORMAL_0 = 8;
export const NORMAL_1 = 12;
export const EDGE_NORMAL = 16;
/** i32: sum of those below. */
export const FLAGS = 20;
/** u32: addresses of where its ends were when the substep began: the ends on a mesh that keeps its shape. */
export const END_0_THEN = 24;
export const END_1_THEN = 28;

/** The first end is tried as a point; so is the second; it is an edge. */
export const FLAG_FIRST = 1;
export const FLAG_SECOND = 2;
export const FLAG_EDGE = 4;
