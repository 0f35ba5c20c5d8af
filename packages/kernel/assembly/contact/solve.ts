import { larger, smaller } from '../lanes';
import {
  changesShape,
  distance,
  distanceTo,
  isMoving,
  normalX,
  normalY,
  normalZ,
  setDistance,
  startOfX,
  startOfY,
  startOfZ,
  traceBack,
} from '../collider';
import { pass, passed, tell, told } from '../threads/pool';
import { endOf, firstOf, inRange } from '../threads/ranges';
import { add, dot } from '../vectors';
import { ON_PLANE, planeOf, weighted } from './data';
import { alongNormal } from './measure';
import { givesOf } from './room';
import * as Collider from '../../layouts/contact/collider';
import * as Contact from '../../layouts/contact/contact';
import * as Point from '../../layouts/point';
import * as Search from '../../layouts/contact/search';
import * as SurfacePoint from '../../layouts/contact/surfacePoint';

/** A number of the surface where a contact is, by where it lies in a surfacePoint. */
function surfaceAt(surface: usize, search: usize, contact: usize, number: usize): f64 {
  const first = <usize>load<u32>(search, Search.FIRST_POINT);
  const at = surface + number;
  return <f64>(
    load<f32>(contact, Contact.WEIGHT_0) * load<f32>(at + ((<usize>load<u32>(contact, Contact.POINT_0) - first) >> 1)) +
    load<f32>(contact, Contact.WEIGHT_1) * load<f32>(at + ((<usize>load<u32>(contact, Contact.POINT_1) - first) >> 1)) +
    load<f32>(contact, Contact.WEIGHT_2) * load<f32>(at + ((<usize>load<u32>(contact, Contact.POINT_2) - first) >> 1))
  );
}

/** How much nearer than its target distance a contact may come, for want of room: as much as any of its corners, or an edge that leads in would be bent around the rim. */
function givenAt(gives: usize, search: usize, contact: usize): f64 {
  const first = <usize>load<u32>(search, Search.FIRST_POINT);
  const i = load<f32>(gives + ((<usize>load<u32>(contact, Contact.POINT_0) - first) >> 2)),
    j = load<f32>(gives + ((<usize>load<u32>(contact, Contact.POINT_1) - first) >> 2)),
    k = load<f32>(gives + ((<usize>load<u32>(contact, Contact.POINT_2) - first) >> 2));
  return <f64>larger<f32>(i, larger<f32>(j, k));
}

/** How far a point was pushed out in this substep without giving it speed. */
// @ts-ignore: decorator
@inline
function pushedBy(residual: usize, start: usize, i: usize): v128 {
  return f32x4.sub(v128.load(residual + i), v128.load(start + i));
}

/** In m: more than rounding takes from the distance to a plane, also to one that has gone along with a moving body. */
const SURELY: f32 = 2e-5;

/** How far a place is over the plane of a point that is near a collider. Outside a convex body it is no nearer to that than so: four in five contacts need no more. */
// @ts-ignore: decorator
@inline
function overPlane(search: usize, point: usize, place: v128): f32 {
  const plane = v128.load(planeOf(search, point));
  return dot(plane, place) + f32x4.extract_lane(plane, 3);
}

/** A corner of an edge or face is moved at most this many times as far as the place of the contact is to move. */
const LEVER: f32 = 3;

/** Contacts of points that a thread takes at a time. */
const CHUNK: i32 = 48;

/**
 * Keeps the contacts at the collider's target distance, with Coulomb friction on the motion of this substep relative to
 * the collider's own. `push` in m is the farthest that cloth which is already too near moves out of the surface in one substep, in
 * all passes together, so that a bad start comes out at a bounded speed instead of exploding.
 * Returns how many probes touch.
 */
export function solveContacts(
  points: usize,
  displacement: usize,
  residual: usize,
  start: usize,
  search: usize,
  push: f32,
): i32 {
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, residual);
  pass<usize>(3, start);
  pass<usize>(4, search);
  pass<f32>(5, push);
  // Points first, each of which has one contact; edges and faces share points, so they follow one another.
  const ofPoints = load<i32>(search, Search.POINT_CONTACT_COUNT);
  let touching = 0;
  const chunks = inRange(solveChunk.index, 0, ofPoints, CHUNK);
  for (let chunk = 0; chunk < chunks; chunk++) touching += i32x4.extract_lane(told(chunk), 0);
  return touching + solveFrom(ofPoints, load<i32>(search, Search.CONTACT_COUNT));
}

function solveChunk(chunk: i32): void {
  tell(chunk, i32x4.splat(solveFrom(firstOf(chunk), endOf(chunk))));
}

/** The same for contacts from one number up to another, of what the job's numbers say. */
function solveFrom(from: i32, to: i32): i32 {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    residual = passed<usize>(2),
    start = passed<usize>(3),
    search = passed<usize>(4);
  const push = passed<f32>(5);
  const contacts = <usize>load<u32>(search, Search.CONTACTS);
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  const fullTarget = <f64>load<f32>(collider, Collider.TARGET);
  const surface = <usize>load<u32>(search, Search.SURFACE);
  const gives = givesOf(search);
  const staticFriction = <f64>load<f32>(collider, Collider.STATIC_FRICTION),
    movingFriction = <f64>load<f32>(collider, Collider.MOVING_FRICTION);
  const moving = isMoving(collider);
  const isMesh = load<i32>(collider, Collider.KIND) == Collider.KIND_MESH;
  const deforming = changesShape(collider);
  const convex = !isMesh && load<i32>(collider, Collider.SIDE) > 0;
  const bounces = load<f32>(collider, Collider.BOUNCE) > 0;
  // The inside of a face may come this much nearer: a corner of a box that holds a whole face off its full clearance
  // stretches that one face (4.6 % instead of 2.6 % on the crate cover), and the clearance is there to be used.
  const spared = <f64>load<f32>(collider, Collider.SPARED);
  let touching = 0;
  let grip: f64 = 1,
    target = fullTarget;
  for (let n = from; n < to; n++) {
    const contact = contacts + <usize>n * Contact.BYTES;
    const i = <usize>load<u32>(contact, Contact.POINT_0),
      j = <usize>load<u32>(contact, Contact.POINT_1),
      k = <usize>load<u32>(contact, Contact.POINT_2);
    if (surface != 0) {
      grip = surfaceAt(surface, search, contact, SurfacePoint.GRIP);
      target = fullTarget - surfaceAt(surface, search, contact, SurfacePoint.NEARER);
    }
    if (gives != 0) target = (surface != 0 ? target : fullTarget) - givenAt(gives, search, contact);
    const onPlane = load<f32>(contact, Contact.WHICH) == ON_PLANE;
    const byPlanes = convex && !onPlane;
    const clear = <f32>target + SURELY;
    let place: v128, motion: v128;
    if (i == j) {
      const d = v128.load(displacement + i);
      place = f32x4.add(v128.load(points + i), d);
      if (byPlanes && overPlane(search, i, place) > clear) continue;
      motion = f32x4.sub(d, v128.load(residual + i));
    } else {
      const di = v128.load(displacement + i),
        dj = v128.load(displacement + j),
        dk = v128.load(displacement + k);
      place = weighted(
        f32x4.add(v128.load(points + i), di),
        f32x4.add(v128.load(points + j), dj),
        f32x4.add(v128.load(points + k), dk),
        contact,
      );
      if (byPlanes && (overPlane(search, i, place) > clear || overPlane(search, j, place) > clear)) continue;
      motion = weighted(
        f32x4.sub(di, v128.load(residual + i)),
        f32x4.sub(dj, v128.load(residual + j)),
        f32x4.sub(dk, v128.load(residual + k)),
        contact,
      );
    }
    const x = <f64>f32x4.extract_lane(place, 0),
      y = <f64>f32x4.extract_lane(place, 1),
      z = <f64>f32x4.extract_lane(place, 2);
    let ux = <f64>f32x4.extract_lane(motion, 0),
      uy = <f64>f32x4.extract_lane(motion, 1),
      uz = <f64>f32x4.extract_lane(motion, 2);
    let fromX = x - ux,
      fromY = y - uy,
      fromZ = z - uz;
    if (moving) {
      // Where the cloth would have been carried if it had stayed in its place on the collider.
      traceBack(collider, fromX, fromY, fromZ);
      fromX = startOfX;
      fromY = startOfY;
      fromZ = startOfZ;
      ux = x - fromX;
      uy = y - fromY;
      uz = z - fromZ;
    }
    if (deforming) {
      ux -= <f64>load<f32>(contact, Contact.CARRIED);
      uy -= <f64>load<f32>(contact, Contact.CARRIED + 4);
      uz -= <f64>load<f32>(contact, Contact.CARRIED + 8);
    }
    const path = ux * ux + uy * uy + uz * uz;
    if (isMesh || onPlane) {
      // Measured in this substep already: a mesh is too dear to be asked in every pass, and within a pass its plane will do.
      const normal = v128.load(contact, Contact.PLANE);
      setDistance(
        <f64>(dot(normal, place) + f32x4.extract_lane(normal, 3)),
        <f64>f32x4.extract_lane(normal, 0),
        <f64>f32x4.extract_lane(normal, 1),
        <f64>f32x4.extract_lane(normal, 2),
      );
    } else distanceTo(collider, x, y, z, fromX, fromY, fromZ, target + Math.sqrt(path));
    // Of an exact body only what is half through its clearance is met at its sharp features: the rest its distance sees.
    const depth = target - distance - (k != j || (onPlane && !isMesh) ? spared : 0);
    if (depth <= 0) continue;
    const nx = normalX,
      ny = normalY,
      nz = normalZ;
    const along = ux * nx + uy * ny + uz * nz;
    // What came nearer in this substep is undone, and its impulse is what friction works with. What was too near
    // before is moved out without giving it speed: both ends of the substep's motion are shifted.
    const stop = smaller<f64>(depth, larger<f64>(-along, 0));
    let shift = depth - stop;
    if (shift > 0) {
      // Less what other passes and contacts have moved it out by.
      const pushed =
        i == j
          ? pushedBy(residual, start, i)
          : weighted(pushedBy(residual, start, i), pushedBy(residual, start, j), pushedBy(residual, start, k), contact);
      const before = alongNormal(pushed);
      // A surface that moves may also move it as fast as it goes itself: layers that fold up before it are pressed into it.
      const ox = <f64>f32x4.extract_lane(motion, 0) - ux,
        oy = <f64>f32x4.extract_lane(motion, 1) - uy,
        oz = <f64>f32x4.extract_lane(motion, 2) - uz;
      const most = <f64>push + Math.sqrt(ox * ox + oy * oy + oz * oz);
      shift = smaller<f64>(shift, larger<f64>(0, most - before));
    }
    touching++;
    let cx = stop * nx,
      cy = stop * ny,
      cz = stop * nz;
    const tx = ux - along * nx,
      ty = uy - along * ny,
      tz = uz - along * nz;
    const slide = Math.sqrt(tx * tx + ty * ty + tz * tz);
    if (slide > 0) {
      const held = slide <= grip * staticFriction * stop;
      const share = held ? 1 : smaller<f64>(1, (grip * movingFriction * stop) / slide);
      cx -= share * tx;
      cy -= share * ty;
      cz -= share * tz;
    }
    if (bounces && <f32>-along > load<f32>(contact, Contact.CAME)) {
      // How it came, and how fast the surface itself goes along its normal.
      store<f32>(contact, <f32>-along, Contact.CAME);
      store<f32>(contact, <f32>(alongNormal(motion) - along), Contact.SURFACE_WENT);
      v128.store(contact, f32x4(<f32>nx, <f32>ny, <f32>nz, load<f32>(contact, Contact.PLANE_OFFSET)), Contact.PLANE);
    }
    const out = f32x4(<f32>(shift * nx), <f32>(shift * ny), <f32>(shift * nz), 0);
    const move = f32x4.add(f32x4(<f32>cx, <f32>cy, <f32>cz, 0), out);
    if (i == j) {
      add(displacement + i, move, 1);
      if (shift > 0) add(residual + i, out, 1);
      continue;
    }
    const a = load<f32>(contact, Contact.WEIGHT_0),
      b = load<f32>(contact, Contact.WEIGHT_1),
      c = load<f32>(contact, Contact.WEIGHT_2);
    const wa = a * load<f32>(points + i, Point.INVERSE_MASS),
      wb = b * load<f32>(points + j, Point.INVERSE_MASS),
      wc = c * load<f32>(points + k, Point.INVERSE_MASS);
    // Where most of the weight is on corners that are held, the others would be flung to make up for it.
    const total = larger<f32>(a * wa + b * wb + c * wc, larger<f32>(wa, larger<f32>(wb, wc)) / LEVER);
    if (!(total > 0)) continue;
    add(displacement + i, move, wa / total);
    add(displacement + j, move, wb / total);
    if (c != 0) add(displacement + k, move, wc / total);
    if (shift > 0) {
      add(residual + i, out, wa / total);
      add(residual + j, out, wb / total);
      if (c != 0) add(residual + k, out, wc / total);
    }
  }
  return touching;
}
