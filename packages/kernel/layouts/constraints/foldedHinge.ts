// An inner edge that is folded at rest; see assembly/bendAngle.ts.
export const BYTES = 32;
/** u32: byte offsets of the points: the ends of the edge, then the two opposite ones. */
export const POINT_0 = 0;
export const POINT_1 = 4;
export const POINT_2 = 8;
export const POINT_3 = 12;
/** f32, in radians. */
export const REST_ANGLE = 16;
/** f32: compliance / h^2. */
export const COMPLIANCE = 20;
/** f32: stiffness times the time of damping between two dampings. */
export const DAMPING = 24;
