// The search for contact of one cloth with one collider; see assembly/contact. Lists are given by their address and number.
export const BYTES = 128;
/** u32: byte offset of the cloth's first point, and how many it has. */
export const FIRST_POINT = 0;
export const POINT_COUNT = 4;
/** u32: edges, 2 byte offsets each. */
export const EDGES = 8;
export const EDGE_COUNT = 12;
/** u32: faces, 3 byte offsets each. */
export const FACES = 16;
export const FACE_COUNT = 20;
/** u32: a plane a point. */
export const PLANES = 24;
/** u32: a byte a point. */
export const FLAGS = 28;
/** u32: candidates, of points as candidate.ts says, of edges and faces as they are listed above. */
export const POINTS_NEAR = 32;
export const POINTS_NEAR_COUNT = 36;
export const EDGES_NEAR = 40;
export const EDGES_NEAR_COUNT = 44;
export const FACES_NEAR = 48;
export const FACES_NEAR_COUNT = 52;
/** u32. */
export const CONTACTS = 56;
export const CONTACT_COUNT = 60;
/** u32: address of the collider. */
export const COLLIDER = 64;
/** f32, in m. */
export const LONGEST_EDGE = 68;
/** u32: address of a surfacePoint a point; 0 where masks scale nothing. */
export const SURFACE = 72;
/** u32: room for pairs with sharp features, their address and number. */
export const PAIR_ROOM = 76;
export const PAIRS = 80;
export const PAIR_COUNT = 84;
/** u32: address of a localPlace a point, where the collider has sharp features. */
export const PLACES = 88;
/** u32: how many of the contacts are of points, which come first. */
export const POINT_CONTACT_COUNT = 92;
/** f32, in m: how near, and how far the collider had moved, when pairs were listed. */
export const PAIRS_REACH = 96;
export const PAIRS_TRAVEL = 100;
/** f32 x 4: where in the world what was asked for last was found, the deepest contact or the first face that is pierced. */
export const FOUND_AT = 104;
/** u32: an f32 a point, in m: how much nearer it may come than it is to keep, for want of room between two colliders. */
export const GIVES = 120;
/** i32: 1 where any may. */
export const GIVING = 124;
