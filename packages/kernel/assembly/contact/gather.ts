import { distance, isFarFrom, normalX, normalY, normalZ } from '../collider';
import { nearestTriangle } from '../meshDistance';
import { beginList, endList, listInRange } from '../threads/lists';
import { pass, passed } from '../threads/pool';
import { endOf, firstOf } from '../threads/ranges';
import { flagOf, placeOf, planeOf } from './data';
import { alongNormal, measure } from './measure';
import * as Candidate from '../../layouts/contact/candidate';
import * as Collider from '../../layouts/contact/collider';
import * as Feeler from '../../layouts/contact/feeler';
import * as Plane from '../../layouts/contact/plane';
import * as Search from '../../layouts/contact/search';

// What may meet in the coming substeps.

/** Keeps what was measured at a place as a plane. */
// @ts-ignore: decorator
@inline
export function keepPlane(plane: usize, place: v128): void {
  store<f32>(plane, <f32>normalX, Plane.NORMAL);
  store<f32>(plane, <f32>normalY, Plane.NORMAL + 4);
  store<f32>(plane, <f32>normalZ, Plane.NORMAL + 8);
  store<f32>(plane, <f32>(distance - alongNormal(place)), Plane.OFFSET);
}

/** Keeps what was measured at a place: as the point's plane and in its candidate. */
// @ts-ignore: decorator
@inline
export function keepMeasure(search: usize, candidate: usize, i: usize, place: v128, travel: f32): void {
  keepPlane(planeOf(search, i), place);
  store<u32>(candidate, <u32>i, Candidate.POINT);
  store<f32>(candidate, <f32>distance, Candidate.DISTANCE);
  store<f32>(candidate, travel, Candidate.TRAVEL);
  store<u32>(candidate, <u32>nearestTriangle, Candidate.TRIANGLE);
  v128.store(candidate, place, Candidate.PLACE);
}

/** Points, edges and faces that a thread takes at a time. */
const CHUNK: i32 = 256;
/** Bytes of a point candidate, an edge and a face. */

/** Finds what may come nearer than `reach` metres to the collider before anything has moved that far. */
export function gatherContacts(
  points: usize,
  displacement: usize,
  search: usize,
  reach: f32,
  travel: f32,
): void {
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, search);
  // An edge that comes within reach has both ends within reach and its length.
  pass<f32>(3, reach + load<f32>(search, Search.LONGEST_EDGE));
  pass<f32>(4, travel);
  const candidates = <usize>load<u32>(search, Search.POINTS_NEAR);
  const end = listInRange(gatherPoints.index, load<i32>(search, Search.POINT_COUNT), CHUNK, candidates, Candidate.BYTES);
  const found = <i32>((end - candidates) >> 5);
  store<i32>(search, found, Search.POINTS_NEAR_COUNT);
  store<i32>(search, 0, Search.EDGES_NEAR_COUNT);
  store<i32>(search, 0, Search.FACES_NEAR_COUNT);
  // A plane has no edges that come between points.
  if (found == 0 || load<i32>(<usize>load<u32>(search, Search.COLLIDER), Collider.KIND) == Collider.KIND_PLANE) return;
  store<i32>(search, gatherNear(search, Search.EDGES, Feeler.EDGE_BYTES, Search.EDGES_NEAR), Search.EDGES_NEAR_COUNT);
  store<i32>(search, gatherNear(search, Search.FACES, Feeler.FACE_BYTES, Search.FACES_NEAR), Search.FACES_NEAR_COUNT);
}

function gatherPoints(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    search = passed<usize>(2);
  const far = passed<f32>(3),
    travel = passed<f32>(4);
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  const low = f32x4.sub(v128.load(collider, Collider.LOW), f32x4.splat(far)),
    high = f32x4.add(v128.load(collider, Collider.HIGH), f32x4.splat(far));
  const first = <usize>load<u32>(search, Search.FIRST_POINT);
  const end = first + (<usize>endOf(chunk) << 4);
  let to = beginList(chunk);
  for (let i = first + (<usize>firstOf(chunk) << 4); i < end; i += 16) {
    const flag = flagOf(search, i);
    store<u8>(flag, 0);
    const place = placeOf(points, displacement, i);
    if (isFarFrom(low, high, place)) continue;
    measure(collider, place, <f64>far);
    if (distance >= <f64>far) continue;
    store<u8>(flag, 1);
    keepMeasure(search, to, i, place, travel);
    to += Candidate.BYTES;
  }
  endList(chunk, to);
}

/** Copies the edges or faces (`size` bytes each, whose list is named at `from` of the search) whose points are all candidates; returns their number. */
function gatherNear(search: usize, from: usize, size: i32, to: usize): i32 {
  pass<usize>(3, <usize>load<u32>(search + from));
  pass<i32>(4, size);
  const list = <usize>load<u32>(search + to);
  return <i32>(listInRange(gatherFeatures.index, load<i32>(search + from, 4), CHUNK, list, size) - list) / size;
}

function gatherFeatures(chunk: i32): void {
  const search = passed<usize>(2),
    size = <usize>passed<i32>(4);
  let feature = passed<usize>(3) + <usize>firstOf(chunk) * size,
    to = beginList(chunk);
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++, feature += size) {
    if (load<u8>(flagOf(search, <usize>load<u32>(feature, Feeler.POINT_0))) == 0) continue;
    if (load<u8>(flagOf(search, <usize>load<u32>(feature, Feeler.POINT_1))) == 0) continue;
    if (size == Feeler.FACE_BYTES && load<u8>(flagOf(search, <usize>load<u32>(feature, Feeler.POINT_2))) == 0) continue;
    memory.copy(to, feature, size);
    to += size;
  }
  endList(chunk, to);
}
