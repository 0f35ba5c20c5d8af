import { add, dot } from '../vectors';
import { CONTACT, weighted } from './data';

/** Cloth that hits at less than this speed in m/s is not thrown back, or it would never lie still. */
const LEAST_BOUNCE: f32 = 0.2;
/**
 * Throws back what hit a collider that bounces in the substep that has just ended: along the normal it then leaves the surface with
 * the collider's share of the speed at which it came. `rate` is 1 / h. Returns the largest speed that it gave, in m/s.
 */
export function throwBack(points: usize, velocity: usize, search: usize, rate: f32): f32 {
  const contacts = <usize>load<u32>(search, 56);
  const bounce = load<f32>(<usize>load<u32>(search, 64), 92);
  let fastest: f32 = 0;
  for (let n = 0, count = load<i32>(search, 60); n < count; n++) {
    const contact = contacts + <usize>n * CONTACT;
    const came = load<f32>(contact, 28) * rate;
    if (came < LEAST_BOUNCE) continue;
    const i = <usize>load<u32>(contact),
      j = <usize>load<u32>(contact, 4),
      k = <usize>load<u32>(contact, 8);
    const a = load<f32>(contact, 16),
      b = load<f32>(contact, 20),
      c = load<f32>(contact, 24);
    const normal = f32x4.replace_lane(v128.load(contact, 32), 3, 0);
    const now = weighted(
      v128.load(velocity + i),
      v128.load(velocity + j),
      v128.load(velocity + k),
      contact,
    );
    const wanted = bounce * came + load<f32>(contact, 12) * rate;
    const missing = wanted - dot(normal, now);
    if (missing <= 0) continue;
    fastest = max(fastest, Mathf.abs(wanted));
    const thrown = f32x4.mul(normal, f32x4.splat(missing));
    if (i == j) {
      add(velocity + i, thrown, 1);
      continue;
    }
    const wa = a * load<f32>(points + i, 12),
      wb = b * load<f32>(points + j, 12),
      wc = c * load<f32>(points + k, 12);
    const total = a * wa + b * wb + c * wc;
    if (!(total > 0)) continue;
    add(velocity + i, thrown, wa / total);
    add(velocity + j, thrown, wb / total);
    if (c != 0) add(velocity + k, thrown, wc / total);
  }
  return fastest;
}
