import { distance, normalX, normalY, normalZ } from '../collider';
import { larger, smaller } from '../lanes';
import { dot } from '../vectors';
import { flagOf, ON_PLANE, placeOf, planeOf, weighted } from './data';
import { alongNormal, measure } from './measure';
import * as Collider from '../../layouts/contact/collider';
import * as Feeler from '../../layouts/contact/feeler';
import * as Contact from '../../layouts/contact/contact';
import * as Search from '../../layouts/contact/search';
import * as SurfacePoint from '../../layouts/contact/surfacePoint';

// Cloth between two surfaces that come nearer to each other than it is to keep from both. Each would press it into the other, and the one that
// came last would win; so both let it come nearer, by as much as room is missing.

/** Two surfaces face each other where the cosine of their normals lies below the first; from the second on all that is missing is given. Between
 *  surfaces that lean more towards each other cloth slides out, against the friction of most fabrics. */
const FACING: f32 = -0.6;
const FACING_FULLY: f32 = -0.8;

/** Where in a search it is kept how much nearer, in m, a point may come; 0 where none may. */
// @ts-ignore: decorator
@inline
export function givesOf(search: usize): usize {
  return load<i32>(search, Search.GIVING) == 0 ? 0 : <usize>load<u32>(search, Search.GIVES);
}

// @ts-ignore: decorator
@inline
function givesAt(search: usize, i: usize): usize {
  return <usize>load<u32>(search, Search.GIVES) + ((i - <usize>load<u32>(search, Search.FIRST_POINT)) >> 2);
}

/** The distance in m that a point is to keep from the collider where there is room. */
// @ts-ignore: decorator
@inline
function wanted(search: usize, i: usize): f32 {
  const full = load<f32>(<usize>load<u32>(search, Search.COLLIDER), Collider.TARGET);
  const surface = <usize>load<u32>(search, Search.SURFACE);
  if (surface == 0) return full;
  const first = <usize>load<u32>(search, Search.FIRST_POINT);
  return full - load<f32>(surface + ((i - first) >> 1), SurfacePoint.NEARER);
}

/** What of that is its half of the cloth's thickness. */
// @ts-ignore: decorator
@inline
function halfThickness(search: usize, i: usize): f32 {
  return wanted(search, i) - load<f32>(<usize>load<u32>(search, Search.COLLIDER), Collider.CLEARANCE);
}

/** Whether a point is between two surfaces that leave less room than the cloth is thick. */
export function isSqueezed(search: usize, i: usize): bool {
  if (load<i32>(search, Search.GIVING) == 0) return false;
  const gives = load<f32>(givesAt(search, i));
  return gives > 0 && wanted(search, i) - gives < halfThickness(search, i);
}

/** In the byte that a search keeps of a point: it is beside one that is squeezed. */
const BESIDE: u8 = 2;

/**
 * Counts what is beside a squeezed point as squeezed too, to be measured: faces lead there from both sides of the rim, where a sharp edge comes between cloth points. Uses
 * the search, which must gather anew afterwards.
 */
export function widenSqueezed(search: usize): void {
  if (load<i32>(search, Search.GIVING) == 0) return;
  const faces = <usize>load<u32>(search, Search.FACES);
  for (let n = 0, count = load<i32>(search, Search.FACE_COUNT); n < count; n++) {
    const face = faces + <usize>n * Feeler.FACE_BYTES;
    const i = <usize>load<u32>(face, Feeler.POINT_0),
      j = <usize>load<u32>(face, Feeler.POINT_1),
      k = <usize>load<u32>(face, Feeler.POINT_2);
    if (!isSqueezed(search, i) && !isSqueezed(search, j) && !isSqueezed(search, k)) continue;
    store<u8>(flagOf(search, i), load<u8>(flagOf(search, i)) | BESIDE);
    store<u8>(flagOf(search, j), load<u8>(flagOf(search, j)) | BESIDE);
    store<u8>(flagOf(search, k), load<u8>(flagOf(search, k)) | BESIDE);
  }
  const first = <usize>load<u32>(search, Search.FIRST_POINT);
  const end = first + ((<usize>load<i32>(search, Search.POINT_COUNT)) << 4);
  for (let i = first; i < end; i += 16) {
    if ((load<u8>(flagOf(search, i)) & BESIDE) != 0) give(search, i, wanted(search, i));
  }
}

/** Forgets which points may come nearer; returns whether anything is near, so that there may be need to. */
export function clearRoom(search: usize): bool {
  if (load<i32>(search, Search.GIVING) != 0) {
    memory.fill(<usize>load<u32>(search, Search.GIVES), 0, <usize>load<i32>(search, Search.POINT_COUNT) * 4);
    store<i32>(search, 0, Search.GIVING);
  }
  return load<i32>(search, Search.CONTACT_COUNT) > 0;
}

/**
 * Finds where two colliders leave a cloth, of which each has a search whose contacts are listed now, less room than both ask for, and lets its points there come nearer to each: to
 * shares of the room as each asks for, or, where the two lie in each other, to the middle. Returns how much in m
 * they miss at most of the room that the cloth's thickness takes, and keeps the place in the first search; 0 where they do not.
 */
export function shareRoom(points: usize, displacement: usize, search: usize, other: usize): f32 {
  if (areApart(<usize>load<u32>(search, Search.COLLIDER), <usize>load<u32>(other, Search.COLLIDER))) return 0;
  missing = 0;
  sharePoints(points, displacement, search, other);
  shareFeatures(points, displacement, search, other);
  shareFeatures(points, displacement, other, search);
  if (missing > 0) v128.store(search, missingAt, Search.FOUND_AT);
  return missing;
}

/** In m: planes of points may say a little less than the distance of bodies. */
const NEARLY: f32 = 0.01;

/** Whether two colliders leave more room everywhere than both ask for, by the boxes around them. */
function areApart(one: usize, other: usize): bool {
  const margin = f32x4.splat(load<f32>(one, Collider.TARGET) + load<f32>(other, Collider.TARGET) + NEARLY);
  const before = f32x4.gt(v128.load(one, Collider.LOW), f32x4.add(v128.load(other, Collider.HIGH), margin)),
    behind = f32x4.gt(v128.load(other, Collider.LOW), f32x4.add(v128.load(one, Collider.HIGH), margin));
  return (i32x4.bitmask(v128.or(before, behind)) & 7) != 0;
}

/** How much room is missing at most, and where. */
let missing: f32 = 0;
let missingAt: v128 = f32x4.splat(0);

/** The same at points that touch both. */
function sharePoints(points: usize, displacement: usize, search: usize, other: usize): void {
  let contact = <usize>load<u32>(search, Search.CONTACTS),
    beside = <usize>load<u32>(other, Search.CONTACTS);
  const end = contact + <usize>load<i32>(search, Search.POINT_CONTACT_COUNT) * Contact.BYTES,
    otherEnd = beside + <usize>load<i32>(other, Search.POINT_CONTACT_COUNT) * Contact.BYTES;
  // Contacts of points lie in the order of the points.
  while (contact < end && beside < otherEnd) {
    const i = <usize>load<u32>(contact, Contact.POINT_0),
      j = <usize>load<u32>(beside, Contact.POINT_0);
    if (i == j) {
      const place = placeOf(points, displacement, i);
      const plane = v128.load(contact, Contact.PLANE),
        facing = v128.load(beside, Contact.PLANE);
      if (findGives(plane, facing, place, i, search, other)) {
        give(search, i, gives);
        give(other, i, othersGives);
      }
    }
    if (i <= j) contact += Contact.BYTES;
    if (j <= i) beside += Contact.BYTES;
  }
}

/** The same at edges and faces that touch the first, as the corner of a box in the middle of a face, of which all corners are near the other. */
function shareFeatures(points: usize, displacement: usize, search: usize, other: usize): void {
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  const isMesh = load<i32>(collider, Collider.KIND) == Collider.KIND_MESH;
  const contacts = <usize>load<u32>(search, Search.CONTACTS);
  for (let n = load<i32>(search, Search.POINT_CONTACT_COUNT), count = load<i32>(search, Search.CONTACT_COUNT); n < count; n++) {
    const contact = contacts + <usize>n * Contact.BYTES;
    const i = <usize>load<u32>(contact, Contact.POINT_0),
      j = <usize>load<u32>(contact, Contact.POINT_1),
      k = <usize>load<u32>(contact, Contact.POINT_2);
    if (load<u8>(flagOf(other, i)) == 0 || load<u8>(flagOf(other, j)) == 0 || load<u8>(flagOf(other, k)) == 0) continue;
    const a = placeOf(points, displacement, i),
      b = placeOf(points, displacement, j),
      c = placeOf(points, displacement, k);
    const place = weighted(a, b, c, contact);
    const facing = weighted(
      v128.load(planeOf(other, i)),
      v128.load(planeOf(other, j)),
      v128.load(planeOf(other, k)),
      contact,
    );
    if (dot(facing, place) + f32x4.extract_lane(facing, 3) > wanted(search, i) + wanted(other, i)) continue;
    let plane = v128.load(contact, Contact.PLANE);
    if (!isMesh && load<f32>(contact, Contact.WHICH) != ON_PLANE) {
      measure(collider, place, 0);
      plane = f32x4(<f32>normalX, <f32>normalY, <f32>normalZ, <f32>(distance - alongNormal(place)));
    }
    if (!findGives(plane, facing, place, i, search, other)) continue;
    give(search, i, gives);
    give(search, j, gives);
    give(search, k, gives);
    give(other, i, othersGives);
    give(other, j, othersGives);
    give(other, k, othersGives);
  }
}

/** How much nearer a place may come to the one collider and to the other. */
let gives: f32 = 0;
let othersGives: f32 = 0;

/** Finds that for a place between two planes, at a point or a feature with it; false where there is room. */
function findGives(plane: v128, facing: v128, place: v128, i: usize, search: usize, other: usize): bool {
  const cosine = dot(plane, facing);
  if (cosine >= FACING) return false;
  const away = dot(plane, place) + f32x4.extract_lane(plane, 3),
    beyond = dot(facing, place) + f32x4.extract_lane(facing, 3);
  const mine = wanted(search, i),
    theirs = wanted(other, i);
  const room = away + beyond,
    asked = mine + theirs;
  const lack = asked - room;
  if (lack <= 0 || !(asked > 0)) return false;
  // Deep in the one and not near the other yet, it is brought out first.
  if (away > mine + lack || beyond > theirs + lack) return false;
  const share = smaller<f32>((FACING - cosine) / (FACING - FACING_FULLY), 1);
  const half = room * 0.5;
  gives = share * (mine - (room < 0 ? half : (room * mine) / asked));
  othersGives = share * (theirs - (room < 0 ? half : (room * theirs) / asked));
  const found = halfThickness(search, i) + halfThickness(other, i) - room;
  if (share == 1 && found > missing) {
    missing = found;
    missingAt = place;
  }
  return true;
}

function give(search: usize, i: usize, gives: f32): void {
  const at = givesAt(search, i);
  store<f32>(at, larger<f32>(load<f32>(at), gives));
  store<i32>(search, 1, Search.GIVING);
}
