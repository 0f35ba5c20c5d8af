// An inner edge that is flat at rest; see assembly/bendFlat.ts.
export const BYTES = 48;
/** u32: byte offsets of the points: the ends of the edge, then the two opposite ones. */
export const POINT_0 = 0;
export const POINT_1 = 4;
export const POINT_2 = 8;
export const POINT_3 = 12;
/** f32: what the points but the first count in the bend vector; the first counts minus their sum. */
export const SHARE_1 = 16;
export const SHARE_2 = 20;
export const SHARE_3 = 24;
/** f32: of all four points w k / (sum w k^2 + compliance / h^2), by which they are moved against the bend vector. */
export const MOVE_0 = 28;
export const MOVE_1 = 32;
export const MOVE_2 = 36;
export const MOVE_3 = 40;
/** f32: damping, a factor on that, for the rate of bending. */
export const DAMPING = 44;
