// A cloth as contact of cloth with cloth knows it.
export const BYTES = 32;
/** u32: number of its first point, and how many it has. */
export const FIRST_POINT = 0;
export const POINT_COUNT = 4;
/** u32: number of the root of its tree. */
export const ROOT = 8;
/** f32, in m: the largest thickness that it keeps from anything. */
export const FARTHEST = 16;
/** f32, in m. */
export const SPACING = 20;
