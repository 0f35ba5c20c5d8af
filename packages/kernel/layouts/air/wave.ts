// A wave of an eddy; see assembly/eddies.ts.
export const BYTES = 32;
/** f32: turns a metre. */
export const TURNS_X = 0;
export const TURNS_Y = 4;
export const TURNS_Z = 8;
/** f32, in m/s: motion of the air at its crest. */
export const VELOCITY_X = 12;
export const VELOCITY_Y = 16;
export const VELOCITY_Z = 20;
/** f32: turns at the moment. */
export const TURNS_NOW = 24;
