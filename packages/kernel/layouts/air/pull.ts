// What draws a point; see assembly/air.ts.
export const BYTES = 32;
/** f32 x 3, in m/s^2. */
export const ACCELERATION = 0;
/** f32, in m/s^2: the most by which motion against that of what draws is braked. */
export const GRIP = 12;
/** f32 x 3, in m/s: the motion of what draws. */
export const VELOCITY = 16;
