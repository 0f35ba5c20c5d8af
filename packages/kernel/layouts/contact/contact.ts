// A place of cloth that is near the collider now.
export const BYTES = 64;
/** u32: byte offsets of the points of its probe: all the same for a point. */
export const POINT_0 = 0;
export const POINT_1 = 4;
export const POINT_2 = 8;
/** f32, in m: how far the surface went along its normal in this substep. Only with a collider that bounces. */
export const SURFACE_WENT = 12;
/** f32: how the points weigh in. */
export const WEIGHT_0 = 16;
export const WEIGHT_1 = 20;
export const WEIGHT_2 = 24;
/** f32, in m: how far the cloth came towards the surface. Only with a collider that bounces. */
export const CAME = 28;
/** The plane of the distance there with a mesh, the normal with a collider that bounces. */
export const PLANE = 32;
export const PLANE_OFFSET = 44;
/** f32 x 3: how far a mesh that changes its shape has carried that place. */
export const CARRIED = 48;
/** f32: ON_PLANE for a contact with a sharp feature, whose distance is that of its plane with any collider. */
export const WHICH = 60;
