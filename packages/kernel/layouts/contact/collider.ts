// A collider as one cloth meets it; see assembly/collider.ts. A mesh is in the collider's own axes.
export const BYTES = 192;
/** i32: one of those below. */
export const KIND = 0;
/** f32. */
export const STATIC_FRICTION = 4;
export const MOVING_FRICTION = 8;
/** f32, in m: how far the middle of the cloth stays away. */
export const TARGET = 12;
/** f32 x 3. */
export const CENTRE = 16;
/** i32: the side that counts: 0 both, 1 outside, -1 inside. */
export const SIDE = 28;
/** f32 x 9: columns are the collider's own axes. */
export const ROTATION = 32;
/** f32 x 3: half size of a box; radius and half height of a cylinder or capsule; radius of a ball. */
export const SIZE = 68;
/** u32: address of its mesh, of an exact body that of its surface; 0 for a plane. */
export const MESH = 80;
/** i32: 1 while it moves. */
export const MOVES = 84;
/** f32, in m: how much nearer the inside of a face may come. */
export const SPARED = 88;
/** f32: the share of the speed of cloth that hits it that is thrown back. */
export const BOUNCE = 92;
/** f32 x 3: corners of the box around it, at any time of the substep. */
export const LOW = 96;
export const HIGH = 112;
/** f32 x 3, f32 x 9: where it was when the substep began. */
export const CENTRE_THEN = 128;
export const ROTATION_THEN = 144;
/** f32, in m: what of TARGET is beyond half the thickness of the cloth. */
export const CLEARANCE = 180;

export const KIND_PLANE = 0;
export const KIND_BALL = 1;
export const KIND_BOX = 2;
export const KIND_CYLINDER = 3;
export const KIND_MESH = 4;
export const KIND_CAPSULE = 5;
