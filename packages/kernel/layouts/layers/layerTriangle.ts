// A triangle of cloth as contact of cloth with cloth knows it.
export const BYTES = 32;
/** u32: byte offsets of its points. */
export const CORNER_0 = 0;
export const CORNER_1 = 4;
export const CORNER_2 = 8;
/**
 * u32: bits 0 to 2 corners, 3 to 5 the edges 01, 12, 20 that it owns (every point and edge of a cloth is owned by one triangle, so that each
 * pair of features is met once), and PASSES.
 */
export const FLAGS = 12;
/** f32, in m. */
export const HALF_THICKNESS = 16;
/** f32: root of its friction. */
export const GRIP = 20;
/** u32: numbers of its leaf and of its cloth. */
export const LEAF = 24;
export const CLOTH = 28;

/** Bits of what it owns: the first corner and the edge from it; twice that the second, four times the third. */
export const OWNS_CORNER = 1;
export const OWNS_EDGE = 8;
export const OWNS_ANY_CORNER = 7;
/** It passes through its own cloth. */
export const PASSES = 64;
