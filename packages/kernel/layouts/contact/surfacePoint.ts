// What masks leave of a point's friction and thickness.
export const BYTES = 8;
/** f32: share of the grip that it has. */
export const GRIP = 0;
/** f32, in m: how much nearer than the collider's target distance it may come. */
export const NEARER = 4;
