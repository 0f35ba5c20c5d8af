import * as Contact from '../../layouts/contact/contact';
import * as Search from '../../layouts/contact/search';

// Contact of one cloth with one collider. Cloth is felt at its points, at edges where they come nearest, and at faces
// where a corner of a box may come between the edges.

export const ON_PLANE: f32 = 1;

// @ts-ignore: decorator
@inline
export function placeOf(points: usize, offset: usize, i: usize): v128 {
  return f32x4.add(v128.load(points + i), v128.load(offset + i));
}

// @ts-ignore: decorator
@inline
export function planeOf(search: usize, i: usize): usize {
  return <usize>load<u32>(search, Search.PLANES) + i - <usize>load<u32>(search, Search.FIRST_POINT);
}

// @ts-ignore: decorator
@inline
export function flagOf(search: usize, i: usize): usize {
  return <usize>load<u32>(search, Search.FLAGS) + ((i - <usize>load<u32>(search, Search.FIRST_POINT)) >> 4);
}

/** The place of a contact on its probe, by its weights. */
// @ts-ignore: decorator
@inline
export function weighted(a: v128, b: v128, c: v128, contact: usize): v128 {
  return f32x4.add(
    f32x4.mul(a, v128.load32_splat(contact, Contact.WEIGHT_0)),
    f32x4.add(
      f32x4.mul(b, v128.load32_splat(contact, Contact.WEIGHT_1)),
      f32x4.mul(c, v128.load32_splat(contact, Contact.WEIGHT_2)),
    ),
  );
}

/** Writes where a contact is: the points of its probe and their weights. */
// @ts-ignore: decorator
@inline
export function writeContact(to: usize, i: usize, j: usize, k: usize, a: f32, b: f32, c: f32): void {
  store<u32>(to, <u32>i, Contact.POINT_0);
  store<u32>(to, <u32>j, Contact.POINT_1);
  store<u32>(to, <u32>k, Contact.POINT_2);
  store<f32>(to, a, Contact.WEIGHT_0);
  store<f32>(to, b, Contact.WEIGHT_1);
  store<f32>(to, c, Contact.WEIGHT_2);
  store<f32>(to, 0, Contact.CAME);
  store<f32>(to, 0, Contact.WHICH);
}
