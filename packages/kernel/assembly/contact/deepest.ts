import { distance } from '../collider';
import { placeOf, weighted } from './data';
import { gatherContacts } from './gather';
import { measure } from './measure';
import { nearContacts } from './near';
import * as Contact from '../../layouts/contact/contact';
import * as Search from '../../layouts/contact/search';

/**
 * The deepest that cloth is inside the collider, in m: how far beyond its surface, clearance not counted. Negative when it
 * keeps off everywhere; -1 when it is nowhere near. The search
 * keeps where it is. Uses the search, which must gather anew afterwards.
 */
export function deepestContact(points: usize, residual: usize, search: usize): f64 {
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  gatherContacts(points, residual, search, 0.05, 0);
  nearContacts(points, residual, search, 0.05, 0);
  const contacts = <usize>load<u32>(search, Search.CONTACTS);
  let deepest: f64 = -1;
  for (let n = 0, count = load<i32>(search, Search.CONTACT_COUNT); n < count; n++) {
    const contact = contacts + <usize>n * Contact.BYTES;
    const place = weighted(
      placeOf(points, residual, <usize>load<u32>(contact, Contact.POINT_0)),
      placeOf(points, residual, <usize>load<u32>(contact, Contact.POINT_1)),
      placeOf(points, residual, <usize>load<u32>(contact, Contact.POINT_2)),
      contact,
    );
    measure(collider, place, 0.05);
    if (-distance <= deepest) continue;
    deepest = -distance;
    v128.store(search, place, Search.FOUND_AT);
  }
  return deepest;
}
