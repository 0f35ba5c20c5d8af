import { add, dot } from '../vectors';
import { weighted } from './data';
import * as Collider from '../../layouts/contact/collider';
import * as Contact from '../../layouts/contact/contact';
import * as Point from '../../layouts/point';
import * as Search from '../../layouts/contact/search';

/** Cloth that hits at less than this speed in m/s is not thrown back, or it would never lie still. */
const LEAST_BOUNCE: f32 = 0.2;
/**
 * Throws back what hit a collider that bounces in the substep that has just ended: along the normal it then leaves the surface with
 * the collider's share of the speed at which it came. `rate` is 1 / h. Returns the largest speed that it gave, in m/s.
 */
export function throwBack(points: usize, velocity: usize, search: usize, rate: f32): f32 {
  const contacts = <usize>load<u32>(search, Search.CONTACTS);
  const bounce = load<f32>(<usize>load<u32>(search, Search.COLLIDER), Collider.BOUNCE);
  let fastest: f32 = 0;
  for (let n = 0, count = load<i32>(search, Search.CONTACT_COUNT); n < count; n++) {
    const contact = contacts + <usize>n * Contact.BYTES;
    const came = load<f32>(contact, Contact.CAME) * rate;
    if (came < LEAST_BOUNCE) continue;
    const i = <usize>load<u32>(contact, Contact.POINT_0),
      j = <usize>load<u32>(contact, Contact.POINT_1),
      k = <usize>load<u32>(contact, Contact.POINT_2);
    const a = load<f32>(contact, Contact.WEIGHT_0),
      b = load<f32>(contact, Contact.WEIGHT_1),
      c = load<f32>(contact, Contact.WEIGHT_2);
    const normal = f32x4.replace_lane(v128.load(contact, Contact.PLANE), 3, 0);
    const now = weighted(
      v128.load(velocity + i),
      v128.load(velocity + j),
      v128.load(velocity + k),
      contact,
    );
    const wanted = bounce * came + load<f32>(contact, Contact.SURFACE_WENT) * rate;
    const missing = wanted - dot(normal, now);
    if (missing <= 0) continue;
    fastest = max(fastest, Mathf.abs(wanted));
    const thrown = f32x4.mul(normal, f32x4.splat(missing));
    if (i == j) {
      add(velocity + i, thrown, 1);
      continue;
    }
    const wa = a * load<f32>(points + i, Point.INVERSE_MASS),
      wb = b * load<f32>(points + j, Point.INVERSE_MASS),
      wc = c * load<f32>(points + k, Point.INVERSE_MASS);
    const total = a * wa + b * wb + c * wc;
    if (!(total > 0)) continue;
    add(velocity + i, thrown, wa / total);
    add(velocity + j, thrown, wb / total);
    if (c != 0) add(velocity + k, thrown, wc / total);
  }
  return fastest;
}
