// The triangles around a point, as a query knows them; see assembly/layers/stars.ts.
export const BYTES = 12;
/** u32 */
export const KIND = 0;
/**
 * f32: how near to each other, in m, features of them that have no point in common come at the least within the horizon where all points keep to the plan;
 * negative where that is not known.
 */
export const STILL = 4;
/** f32: the same wherever in their balls the points are. */
export const ROOM = 8;

/** The triangles go once around the point; from border to border; or neither is sure. */
export const KIND_OTHER = 0;
export const KIND_INSIDE = 1;
export const KIND_BORDER = 2;
