// The mesh of a collider's surface; see assembly/meshDistance.ts. Places are in the collider's own axes. What is of a mesh that changes its
// shape is 0 for others.
export const BYTES = 44;
/** u32: address of its boxNodes. */
export const NODES = 0;
/** u32: address of its surfaceTriangles. */
export const TRIANGLES = 4;
/** u32: address of 9 f32 a triangle, its corners when the substep began, where it changes its shape. */
export const CORNERS_THEN = 8;
/** i32: how many triangles. */
export const COUNT = 12;
/** u32: addresses of the triangles as they are when the frame begins and ends, where it changes its shape. */
export const TRIANGLES_FROM = 16;
export const TRIANGLES_TO = 20;
/** u32: addresses of the boxNodes and sharpFeatures of what is sharp of it; 0 where nothing is. */
export const SHARP_NODES = 24;
export const SHARP_FEATURES = 28;
/** u32: addresses of the nodes as they are when the frame begins and ends; i32: their number. Where it changes its shape. */
export const NODES_FROM = 32;
export const NODES_TO = 36;
export const NODE_COUNT = 40;
