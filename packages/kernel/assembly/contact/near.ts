import {
  BOX,
  changesShape,
  distance,
  isMoving,
  MESH,
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
import { CONTACT, placeOf, planeOf, weighted, writeContact } from './data';
import { nearestOnEdge } from './edge';
import { nearestOnFace } from './face';
import { keepMeasure, keepPlane } from './gather';
import { alongNormal, keepCarry, measureFrom } from './measure';

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
  const collider = <usize>load<u32>(search, 64);
  const contacts = <usize>load<u32>(search, 56);
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, search);
  pass<f32>(3, reach);
  pass<f32>(4, travel);
  let to = listInRange(nearPoints.index, load<i32>(search, 36), CHUNK, contacts, <i32>CONTACT);
  store<i32>(search, <i32>((to - contacts) / CONTACT), 92);
  to = listInRange(nearEdges.index, load<i32>(search, 44), CHUNK, to, <i32>CONTACT);
  // The corners of a box come up inside faces; all other sharp points are met in contact/sharp.ts.
  if (load<i32>(collider) == BOX) {
    to = listInRange(nearFaces.index, load<i32>(search, 52), CHUNK, to, <i32>CONTACT);
  }
  store<i32>(search, <i32>((to - contacts) / CONTACT), 60);
}

function nearPoints(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    search = passed<usize>(2);
  const reach = passed<f32>(3),
    travel = passed<f32>(4);
  const collider = <usize>load<u32>(search, 64);
  const candidates = <usize>load<u32>(search, 32);
  const moving = isMoving(collider);
  const isMesh = load<i32>(collider) == MESH;
  // Planes go along with a moving collider; of one that changes its shape each goes along with its triangle, wherever an edge may need it.
  const deforming = changesShape(collider);
  const edge = load<f32>(search, 68);
  let to = beginList(chunk);
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++) {
    const candidate = candidates + (<usize>n << 5);
    const i = <usize>load<u32>(candidate);
    const place = placeOf(points, displacement, i);
    const slack = load<f32>(candidate, 4) - (travel - load<f32>(candidate, 8)) - reach;
    const moved = squareOf(f32x4.sub(place, v128.load(candidate, 16)));
    const triangle = <usize>load<u32>(candidate, 12);
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
    if (distance >= <f64>reach || load<f32>(points + i, 12) == 0) continue;
    writeContact(to, i, i, i, 1, 0, 0);
    if (isMesh) keepCarry(to);
    v128.store(to, v128.load(planeOf(search, i)), 32);
    to += CONTACT;
  }
  endList(chunk, to);
}

function nearEdges(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    search = passed<usize>(2);
  const reach = passed<f32>(3);
  const collider = <usize>load<u32>(search, 64);
  const edges = <usize>load<u32>(search, 40);
  const isMesh = load<i32>(collider) == MESH;
  let to = beginList(chunk);
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++) {
    if (!nearestOnEdge(points, displacement, search, edges + (<usize>n << 3), reach, to)) continue;
    if (isMesh) measureContact(points, displacement, collider, to, reach);
    to += CONTACT;
  }
  endList(chunk, to);
}

function nearFaces(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    search = passed<usize>(2);
  const faces = <usize>load<u32>(search, 48);
  const reach = passed<f32>(3) - load<f32>(<usize>load<u32>(search, 64), 88);
  let to = beginList(chunk);
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++) {
    if (nearestOnFace(points, displacement, search, faces + <usize>n * 12, reach, to)) to += CONTACT;
  }
  endList(chunk, to);
}

/** Takes a plane along with a collider that has moved in this substep. */
function carryPlane(collider: usize, plane: usize): void {
  const x = <f64>load<f32>(plane),
    y = <f64>load<f32>(plane, 4),
    z = <f64>load<f32>(plane, 8),
    offset = <f64>load<f32>(plane, 12);
  // Its place nearest to the origin, and one that lies a metre out of it.
  traceBack(collider, -offset * x, -offset * y, -offset * z);
  const px = startOfX,
    py = startOfY,
    pz = startOfZ;
  traceBack(collider, (1 - offset) * x, (1 - offset) * y, (1 - offset) * z);
  const nx = startOfX - px,
    ny = startOfY - py,
    nz = startOfZ - pz;
  store<f32>(plane, <f32>nx);
  store<f32>(plane, <f32>ny, 4);
  store<f32>(plane, <f32>nz, 8);
  store<f32>(plane, <f32>-(nx * px + ny * py + nz * pz), 12);
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
    placeOf(points, displacement, <usize>load<u32>(contact)),
    placeOf(points, displacement, <usize>load<u32>(contact, 4)),
    placeOf(points, displacement, <usize>load<u32>(contact, 8)),
    contact,
  );
  const start = weighted(
    v128.load(points + <usize>load<u32>(contact)),
    v128.load(points + <usize>load<u32>(contact, 4)),
    v128.load(points + <usize>load<u32>(contact, 8)),
    contact,
  );
  measureFrom(collider, place, start, <f64>reach + 0.005);
  keepCarry(contact);
  store<f32>(contact, <f32>normalX, 32);
  store<f32>(contact, <f32>normalY, 36);
  store<f32>(contact, <f32>normalZ, 40);
  store<f32>(contact, <f32>(distance - alongNormal(place)), 44);
}
