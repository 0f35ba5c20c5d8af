import { dot } from '../vectors';
import { placeOf, planeOf, writeContact } from './data';
import * as Feeler from '../../layouts/contact/feeler';

// @ts-ignore: decorator
@inline
export function sameNormal(a: v128, b: v128): bool {
  return (i32x4.bitmask(f32x4.eq(a, b)) & 7) == 7;
}

/** Where the planes of an edge's ends meet between them, if that lies within reach. */
export function nearestOnEdge(
  points: usize,
  displacement: usize,
  search: usize,
  edge: usize,
  reach: f32,
  to: usize,
): bool {
  const i = <usize>load<u32>(edge, Feeler.POINT_0),
    j = <usize>load<u32>(edge, Feeler.POINT_1);
  const planeA = v128.load(planeOf(search, i)),
    planeB = v128.load(planeOf(search, j));
  if (sameNormal(planeA, planeB)) return false;
  const a = placeOf(points, displacement, i),
    b = placeOf(points, displacement, j);
  const along = f32x4.sub(b, a);
  const fallA = dot(planeA, along),
    fallB = dot(planeB, along);
  if (fallA >= 0 || fallB <= 0) return false;
  const atA = dot(planeA, a) + f32x4.extract_lane(planeA, 3),
    atB = dot(planeB, b) + f32x4.extract_lane(planeB, 3);
  // atA + t fallA = atB - (1 - t) fallB
  const t = (atB - fallB - atA) / (fallA - fallB);
  if (!(t > 0.02 && t < 0.98) || atA + t * fallA >= reach) return false;
  writeContact(to, i, j, j, 1 - t, t, 0);
  return true;
}
