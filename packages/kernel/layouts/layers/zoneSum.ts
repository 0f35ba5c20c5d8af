// What is summed up over a rigid zone, kept with one of its points; see assembly/layers/forbidCrossing.ts.
export const BYTES = 32;
/** f32 x 3: real motion times mass. */
export const REAL = 0;
/** f32, in kg. */
export const MASS = 12;
/** f32 x 3: the part of that motion that gives speed, times mass. */
export const GIVEN = 16;
