// A point that is drawn to a place in space; see assembly/hold.ts. A point with a normal may not go behind its place; without one all three
// numbers of it are 0.
export const BYTES = 48;
/** u32: byte offset of the point. */
export const POINT = 0;
/** f32: the share of its way back that the point goes in a substep; 1 for a point that is carried. */
export const GIVE = 4;
/** f32, in m: by which it may stray. */
export const SLACK = 8;
export const NORMAL_X = 12;
/** f32 x 3: where it is drawn to when the frame begins. */
export const FROM = 16;
export const NORMAL_Y = 28;
/** f32 x 3: where when the frame ends. */
export const TO = 32;
export const NORMAL_Z = 44;
