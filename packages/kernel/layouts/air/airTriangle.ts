// A face that air and pressure act on; see assembly/air.ts.
export const BYTES = 32;
/** u32: byte offsets of its points. */
export const CORNER_0 = 0;
export const CORNER_1 = 4;
export const CORNER_2 = 8;
/** f32, in kg. */
export const MASS = 12;
/** f32: shares that masks leave of drag and of pressure. */
export const DRAG_ACROSS = 16;
export const DRAG_ALONG = 20;
export const PRESSURE = 24;
