// Contact of one cloth with one collider. Cloth is felt at its points, at edges where they come nearest, and at faces
// where a corner of a box may come between the edges.
//
// A search takes 104 bytes: u32 byte offset of the first point, u32 points; u32 edges (2 byte offsets each), u32 their
// number; u32 faces (3 byte offsets each), u32 their number; u32 planes, u32 flags (a byte a point); u32 point
// candidates, u32 their number; u32 edge candidates, u32 number; u32 face candidates, u32 number; u32 contacts, u32
// number; u32 collider; f32 longest edge in m; u32 surface; u32 room for pairs with sharp features (contact/sharp.ts), u32 pairs, u32
// their number, u32 places of points in the collider's axes (48 bytes a point, see contact/sharp.ts); u32 how many of the
// contacts are of points, which come first; f32 how near, and how far the collider had moved, when pairs were listed.
// A plane takes 16 bytes: f32 normal x y z and f32 offset. It is the distance where the point was measured last, and
// for a convex collider never more than the distance anywhere: so the planes of the ends say where an edge is nearest.
// A point candidate takes 32 bytes: u32 byte offset, f32 distance when last measured, f32 how far the collider had
// moved then, u32 triangle of a mesh that was nearest; f32 x 4 the place that was measured.
// A contact takes 64 bytes: 3 byte offsets (all the same for a point), f32 how far the surface went along its normal in this
// substep; f32 x 3 weights; f32 how far the cloth came towards the surface (both only with a collider that bounces);
// the plane of the distance there with a mesh, the normal with a collider that bounces; f32 x 3 how far a mesh that changes its shape has carried that place;
// and f32 ON_PLANE for a contact with a sharp feature, whose distance is that of its plane with any collider.
// A surface, where masks scale friction or thickness, has 8 bytes a point: f32 share of the grip that it has, f32 how much nearer
// than the collider's target distance it may come, in m.

export const CONTACT: usize = 64;
export const ON_PLANE: f32 = 1;

// @ts-ignore: decorator
@inline
export function placeOf(points: usize, offset: usize, i: usize): v128 {
  return f32x4.add(v128.load(points + i), v128.load(offset + i));
}

// @ts-ignore: decorator
@inline
export function planeOf(search: usize, i: usize): usize {
  return <usize>load<u32>(search, 24) + i - <usize>load<u32>(search);
}

// @ts-ignore: decorator
@inline
export function flagOf(search: usize, i: usize): usize {
  return <usize>load<u32>(search, 28) + ((i - <usize>load<u32>(search)) >> 4);
}

/** The place of a contact on its probe, by its weights. */
// @ts-ignore: decorator
@inline
export function weighted(a: v128, b: v128, c: v128, contact: usize): v128 {
  return f32x4.add(
    f32x4.mul(a, v128.load32_splat(contact, 16)),
    f32x4.add(
      f32x4.mul(b, v128.load32_splat(contact, 20)),
      f32x4.mul(c, v128.load32_splat(contact, 24)),
    ),
  );
}

/** Writes where a contact is: the points of its probe and their weights. */
// @ts-ignore: decorator
@inline
export function writeContact(to: usize, i: usize, j: usize, k: usize, a: f32, b: f32, c: f32): void {
  store<u32>(to, <u32>i);
  store<u32>(to, <u32>j, 4);
  store<u32>(to, <u32>k, 8);
  store<f32>(to, a, 16);
  store<f32>(to, b, 20);
  store<f32>(to, c, 24);
  store<f32>(to, 0, 28);
  store<f32>(to, 0, 60);
}
