// Four triangles of one colour, which share no point; see assembly/membrane.ts. Each field has one number for each of the four.
export const BYTES = 176;
/** From one of the four to the next. */
export const LANE = 4;
/** u32: byte offsets of the points at their corners. */
export const CORNER_0 = 0;
export const CORNER_1 = 16;
export const CORNER_2 = 32;
/**
 * f32: the inverse of the 2x2 matrix of their edges in the material. The warp tangent is WARP_1 times the edge to corner 1 plus WARP_2 times
 * that to corner 2; so the weft tangent.
 */
export const WARP_1 = 48;
export const WEFT_1 = 64;
export const WARP_2 = 80;
export const WEFT_2 = 96;
/** f32: compliance / h^2, each 1 / (stiffness area h^2). */
export const WARP_COMPLIANCE = 112;
export const WEFT_COMPLIANCE = 128;
export const SHEAR_COMPLIANCE = 144;
/** f32: how much softer squeezing is than stretching, a factor on the compliance. */
export const SOFTER = 160;
