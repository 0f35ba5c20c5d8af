// The distance from a collider where a point was measured last, as a plane. For a convex collider never more than the distance anywhere: so
// the planes of its ends say where an edge is nearest.
export const BYTES = 16;
/** f32 x 3. */
export const NORMAL = 0;
/** f32. */
export const OFFSET = 12;
