import { distance } from '../collider';
import { placeOf, weighted } from './data';
import { gatherContacts } from './gather';
import { measure } from './measure';
import { nearContacts } from './near';
import { isSqueezed } from './room';
import * as Contact from '../../layouts/contact/contact';
import * as Search from '../../layouts/contact/search';

/** How far from the collider contacts are listed for that, in m. */
const NEAR: f32 = 0.05;

/** Lists the contacts of a search as cloth lies now, to be measured. The search must gather anew afterwards. */
export function listToMeasure(points: usize, residual: usize, search: usize): void {
  gatherContacts(points, residual, search, NEAR, 0);
  nearContacts(points, residual, search, NEAR, 0);
}

/**
 * The deepest that cloth is inside the collider, in m, of the contacts that are listed: how far beyond its surface, clearance not counted. Negative when it
 * keeps off everywhere; -1 when it is nowhere near. What is squeezed between colliders without room is left out. The search keeps where it is.
 */
export function deepestContact(points: usize, residual: usize, search: usize): f64 {
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  const contacts = <usize>load<u32>(search, Search.CONTACTS);
  let deepest: f64 = -1;
  for (let n = 0, count = load<i32>(search, Search.CONTACT_COUNT); n < count; n++) {
    const contact = contacts + <usize>n * Contact.BYTES;
    const i = <usize>load<u32>(contact, Contact.POINT_0),
      j = <usize>load<u32>(contact, Contact.POINT_1),
      k = <usize>load<u32>(contact, Contact.POINT_2);
    if (isSqueezed(search, i) || isSqueezed(search, j) || isSqueezed(search, k)) continue;
    const place = weighted(
      placeOf(points, residual, i),
      placeOf(points, residual, j),
      placeOf(points, residual, k),
      contact,
    );
    measure(collider, place, NEAR);
    if (-distance <= deepest) continue;
    deepest = -distance;
    v128.store(search, place, Search.FOUND_AT);
  }
  return deepest;
}
