import { distance, isFarFrom, normalX, normalY, normalZ, PLANE } from '../collider';
import { nearestTriangle } from '../meshDistance';
import { flagOf, placeOf, planeOf } from './data';
import { alongNormal, measure } from './measure';

// What may meet in the coming substeps.

/** Keeps what was measured at a place: as the point's plane and in its candidate. */
// @ts-ignore: decorator
@inline
export function keepMeasure(search: usize, candidate: usize, i: usize, place: v128, travel: f32): void {
  const plane = planeOf(search, i);
  store<f32>(plane, <f32>normalX);
  store<f32>(plane, <f32>normalY, 4);
  store<f32>(plane, <f32>normalZ, 8);
  store<f32>(plane, <f32>(distance - alongNormal(place)), 12);
  store<u32>(candidate, <u32>i);
  store<f32>(candidate, <f32>distance, 4);
  store<f32>(candidate, travel, 8);
  store<u32>(candidate, <u32>nearestTriangle, 12);
  v128.store(candidate, place, 16);
}

/** Finds what may come nearer than `reach` metres to the collider before anything has moved that far. */
export function gatherContacts(
  points: usize,
  displacement: usize,
  search: usize,
  reach: f32,
  travel: f32,
): void {
  const collider = <usize>load<u32>(search, 64);
  // An edge that comes within reach has both ends within reach and its length.
  const far = reach + load<f32>(search, 68);
  const low = f32x4.sub(v128.load(collider, 96), f32x4.splat(far)),
    high = f32x4.add(v128.load(collider, 112), f32x4.splat(far));
  const kind = load<i32>(collider);
  const first = <usize>load<u32>(search),
    end = first + (<usize>load<u32>(search, 4) << 4);
  const candidates = <usize>load<u32>(search, 32);
  let found = 0;
  for (let i = first; i < end; i += 16) {
    const flag = flagOf(search, i);
    store<u8>(flag, 0);
    const place = placeOf(points, displacement, i);
    if (isFarFrom(low, high, place)) continue;
    measure(collider, place, <f64>far);
    if (distance >= <f64>far) continue;
    store<u8>(flag, 1);
    keepMeasure(search, candidates + (<usize>found << 5), i, place, travel);
    found++;
  }
  store<i32>(search, found, 36);
  store<i32>(search, 0, 44);
  store<i32>(search, 0, 52);
  // A plane has no edges that come between points.
  if (found == 0 || kind == PLANE) return;
  store<i32>(search, gatherNear(search, <usize>load<u32>(search, 8), load<i32>(search, 12), 8, <usize>load<u32>(search, 40)), 44);
  store<i32>(search, gatherNear(search, <usize>load<u32>(search, 16), load<i32>(search, 20), 12, <usize>load<u32>(search, 48)), 52);
}

/** Copies the edges or faces (`size` bytes each) whose points are all candidates. */
function gatherNear(search: usize, from: usize, count: i32, size: usize, to: usize): i32 {
  let found = 0;
  for (let n = 0; n < count; n++) {
    const feature = from + <usize>n * size;
    if (load<u8>(flagOf(search, <usize>load<u32>(feature))) == 0) continue;
    if (load<u8>(flagOf(search, <usize>load<u32>(feature, 4))) == 0) continue;
    if (size == 12 && load<u8>(flagOf(search, <usize>load<u32>(feature, 8))) == 0) continue;
    memory.copy(to + <usize>found * size, feature, size);
    found++;
  }
  return found;
}
