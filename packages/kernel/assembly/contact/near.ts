import {
  changesShape,
  distance,
  isMoving,
  normalX,
  normalY,
  normalZ,
  startOfX,
  startOfY,
  startOfZ,
  traceBack,
} from '../collider';
import { lookFirst } from '../meshDistance';
import { beginList, endList, listInRange } from '../threads/lists';
import { pass, passed } from '../threads/pool';
import { endOf, firstOf } from '../threads/ranges';
import { squareOf } from '../vectors';
import { placeOf, planeOf, weighted, writeContact } from './data';
import { nearestOnEdge } from './edge';
import { nearestOnFace } from './face';
import { keepMeasure, keepPlane } from './gather';
import { alongNormal, keepCarry, measureFrom } from './measure';
import * as Candidate from '../../layouts/contact/candidate';
import * as Collider from '../../layouts/contact/collider';
import * as Contact from '../../layouts/contact/contact';
import * as Plane from '../../layouts/contact/plane';
import * as Point from '../../layouts/point';
import * as Search from '../../layouts/contact/search';
import * as Feeler from '../../layouts/contact/feeler';

// What is near now, as contacts.

/** Points, edges and faces that a thread takes at a time. */
const CHUNK: i32 = 64;

/**
 * Writes what may be nearer than `reach` metres now as contacts. A point is measured again only when it and the collider
 * have moved as far as it was away: distance changes no faster than that.
 */
export function nearContacts(
  points: usize,
  displacement: usize,
  search: usize,
  reach: f32,
  travel: f32,
): void {
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  const contacts = <usize>load<u32>(search, Search.CONTACTS);
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, search);
  pass<f32>(3, reach);
  pass<f32>(4, travel);
  let to = listInRange(nearPoints.index, load<i32>(search, Search.POINTS_NEAR_COUNT), CHUNK, contacts, <i32>Contact.BYTES);
  store<i32>(search, <i32>((to - contacts) / Contact.BYTES), Search.POINT_CONTACT_COUNT);
  to = listInRange(nearEdges.index, load<i32>(search, Search.EDGES_NEAR_COUNT), CHUNK, to, <i32>Contact.BYTES);
  // The corners of a box come up inside faces; all other sharp points are met in contact/sharp.ts.
  if (load<i32>(collider, Collider.KIND) == Collider.KIND_BOX) {
    to = listInRange(nearFaces.index, load<i32>(search, Search.FACES_NEAR_COUNT), CHUNK, to, <i32>Contact.BYTES);
  }
  store<i32>(search, <i32>((to - contacts) / Contact.BYTES), Search.CONTACT_COUNT);
}

function nearPoints(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    search = passed<usize>(2);
  const reach = passed<f32>(3),
    travel = passed<f32>(4);
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  const candidates = <usize>load<u32>(search, Search.POINTS_NEAR);
  const moving = isMoving(collider);
  const isMesh = load<i32>(collider, Collider.KIND) == Collider.KIND_MESH;
  // Planes go along with a moving collider; of one that changes its shape each goes along with its triangle, wherever an edge may need it.
  const deforming = changesShape(collider);
  const edge = load<f32>(search, Search.LONGEST_EDGE);
  let to = beginList(chunk);
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++) {
    const candidate = candidates + <usize>n * Candidate.BYTES;
    const i = <usize>load<u32>(candidate, Candidate.POINT);
    const place = placeOf(points, displacement, i);
    const slack = load<f32>(candidate, Candidate.DISTANCE) - (travel - load<f32>(candidate, Candidate.TRAVEL)) - reach;
    const moved = squareOf(f32x4.sub(place, v128.load(candidate, Candidate.PLACE)));
    const triangle = <usize>load<u32>(candidate, Candidate.TRIANGLE);
    if (slack > 0 && moved < slack * slack) {
      if (!deforming) {
        if (moving) carryPlane(collider, planeOf(search, i));
        continue;
      }
      // Too far for any edge to come near before this point does.
      if (slack > edge && moved < (slack - edge) * (slack - edge)) continue;
      if (triangle != 0) {
        lookFirst(triangle);
        measureFrom(collider, place, v128.load(points + i), 0);
        keepPlane(planeOf(search, i), place);
        continue;
      }
    }
    lookFirst(triangle);
    // Looking farther than needed costs little and saves measuring again soon.
    measureFrom(collider, place, v128.load(points + i), <f64>(deforming ? reach + edge : reach) + 0.02);
    keepMeasure(search, candidate, i, place, travel);
    if (distance >= <f64>reach || load<f32>(points + i, Point.INVERSE_MASS) == 0) continue;
    writeContact(to, i, i, i, 1, 0, 0);
    if (isMesh) keepCarry(to);
    v128.store(to, v128.load(planeOf(search, i)), Contact.PLANE);
    to += Contact.BYTES;
  }
  endList(chunk, to);
}

function nearEdges(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    search = passed<usize>(2);
  const reach = passed<f32>(3);
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  const edges = <usize>load<u32>(search, Search.EDGES_NEAR);
  const isMesh = load<i32>(collider, Collider.KIND) == Collider.KIND_MESH;
  let to = beginList(chunk);
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++) {
    if (!nearestOnEdge(points, displacement, search, edges + <usize>n * Feeler.EDGE_BYTES, reach, to)) continue;
    if (isMesh) measureContact(points, displacement, collider, to, reach);
    to += Contact.BYTES;
  }
  endList(chunk, to);
}

function nearFaces(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    search = passed<usize>(2);
  const faces = <usize>load<u32>(search, Search.FACES_NEAR);
  const reach = passed<f32>(3) - load<f32>(<usize>load<u32>(search, Search.COLLIDER), Collider.SPARED);
  let to = beginList(chunk);
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++) {
    if (nearestOnFace(points, displacement, search, faces + <usize>n * Feeler.FACE_BYTES, reach, to)) to += Contact.BYTES;
  }
  endList(chunk, to);
}

/** Takes a plane along with a collider that has moved in this substep. */
function carryPlane(collider: usize, plane: usize): void {
  const x = <f64>load<f32>(plane, Plane.NORMAL),
    y = <f64>load<f32>(plane, Plane.NORMAL + 4),
    z = <f64>load<f32>(plane, Plane.NORMAL + 8),
    offset = <f64>load<f32>(plane, Plane.OFFSET);
  // Its place nearest to the origin, and one that lies a metre out of it.
  traceBack(collider, -offset * x, -offset * y, -offset * z);
  const px = startOfX,
    py = startOfY,
    pz = startOfZ;
  traceBack(collider, (1 - offset) * x, (1 - offset) * y, (1 - offset) * z);
  const nx = startOfX - px,
    ny = startOfY - py,
    nz = startOfZ - pz;
  store<f32>(plane, <f32>nx, Plane.NORMAL);
  store<f32>(plane, <f32>ny, Plane.NORMAL + 4);
  store<f32>(plane, <f32>nz, Plane.NORMAL + 8);
  store<f32>(plane, <f32>-(nx * px + ny * py + nz * pz), Plane.OFFSET);
}

/** Measures a mesh where a contact is, and keeps the distance as a plane. */
function measureContact(
  points: usize,
  displacement: usize,
  collider: usize,
  contact: usize,
  reach: f32,
): void {
  const place = weighted(
    placeOf(points, displacement, <usize>load<u32>(contact, Contact.POINT_0)),
    placeOf(points, displacement, <usize>load<u32>(contact, Contact.POINT_1)),
    placeOf(points, displacement, <usize>load<u32>(contact, Contact.POINT_2)),
    contact,
  );
  const start = weighted(
    v128.load(points + <usize>load<u32>(contact, Contact.POINT_0)),
    v128.load(points + <usize>load<u32>(contact, Contact.POINT_1)),
    v128.load(points + <usize>load<u32>(contact, Contact.POINT_2)),
    contact,
  );
  measureFrom(collider, place, start, <f64>reach + 0.005);
  keepCarry(contact);
  store<f32>(contact, <f32>normalX, Contact.PLANE);
  store<f32>(contact, <f32>normalY, Contact.PLANE + 4);
  store<f32>(contact, <f32>normalZ, Contact.PLANE + 8);
  store<f32>(contact, <f32>(distance - alongNormal(place)), Contact.PLANE_OFFSET);
}
