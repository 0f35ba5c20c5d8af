// A triangle of a collider's surface; see assembly/meshDistance.ts. The normals of corners and edges are those weighted by angle that give the
// right sign anywhere (Baerentzen and Aanaes 2005, "Signed Distance Computation Using the Angle Weighted Pseudonormal").
export const BYTES = 124;
/** From one corner, or one normal, to the next. */
export const VECTOR = 12;
/** f32 x 9. */
export const CORNERS = 0;
export const CORNER_1 = 12;
export const CORNER_2 = 24;
/** f32 x 3. */
export const NORMAL = 36;
/** f32 x 9: at the corners, and of the edges between corners 0 1, 1 2 and 2 0. */
export const CORNER_NORMALS = 48;
export const EDGE_NORMALS = 84;
/** Bytes of the corners alone. */
export const CORNER_BYTES = 36;
