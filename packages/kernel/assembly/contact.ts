import {
  BOX,
  carryX,
  carryY,
  carryZ,
  changesShape,
  distance,
  distanceTo,
  isFarFrom,
  isMoving,
  MESH,
  normalX,
  normalY,
  normalZ,
  PLANE,
  setDistance,
  startOfX,
  startOfY,
  startOfZ,
  traceBack,
} from './collider';

// Contact of one cloth with one collider. Cloth is felt at its points, at edges where they come nearest, and at faces
// where a corner of a box may come between the edges.
//
// A search takes 80 bytes: u32 byte offset of the first point, u32 points; u32 edges (2 byte offsets each), u32 their
// number; u32 faces (3 byte offsets each), u32 their number; u32 planes, u32 flags (a byte a point); u32 point
// candidates, u32 their number; u32 edge candidates, u32 number; u32 face candidates, u32 number; u32 contacts, u32
// number; u32 collider; f32 longest edge in m.
// A plane takes 16 bytes: f32 normal x y z and f32 offset. It is the distance where the point was measured last, and
// for a convex collider never more than the distance anywhere: so the planes of the ends say where an edge is nearest.
// A point candidate takes 32 bytes: u32 byte offset, f32 distance when last measured, f32 how far the collider had
// moved then, one unused; f32 x 4 the place that was measured.
// A contact takes 64 bytes: 3 byte offsets (all the same for a point), f32 how far the surface went along its normal in this
// substep; f32 x 3 weights; f32 how far the cloth came towards the surface (both only with a collider that bounces);
// the plane of the distance there with a mesh, the normal with a collider that bounces; and f32 x 3 how far a mesh that changes its shape has carried that place.

const CONTACT: usize = 64;
/** Cloth that hits at less than this speed in m/s is not thrown back, or it would never lie still. */
const LEAST_BOUNCE: f32 = 0.2;
/** A face is felt at a corner of a box that has come through it by up to this, in m. */
const CORNER_DEPTH: f32 = 0.01;

// @ts-ignore: decorator
@inline
function placeOf(points: usize, offset: usize, i: usize): v128 {
  return f32x4.add(v128.load(points + i), v128.load(offset + i));
}

// @ts-ignore: decorator
@inline
function measure(collider: usize, place: v128, reach: f64): void {
  const x = <f64>f32x4.extract_lane(place, 0),
    y = <f64>f32x4.extract_lane(place, 1),
    z = <f64>f32x4.extract_lane(place, 2);
  distanceTo(collider, x, y, z, x, y, z, reach);
}

/**
 * The same for a place that was at `start` when the substep began: where both sides count, it belongs to the side on which it
 * was, seen from the collider.
 */
// @ts-ignore: decorator
@inline
function measureFrom(collider: usize, place: v128, start: v128, reach: f64): void {
  let fromX = <f64>f32x4.extract_lane(start, 0),
    fromY = <f64>f32x4.extract_lane(start, 1),
    fromZ = <f64>f32x4.extract_lane(start, 2);
  if (isMoving(collider)) {
    traceBack(collider, fromX, fromY, fromZ);
    fromX = startOfX;
    fromY = startOfY;
    fromZ = startOfZ;
  }
  const x = <f64>f32x4.extract_lane(place, 0),
    y = <f64>f32x4.extract_lane(place, 1),
    z = <f64>f32x4.extract_lane(place, 2);
  distanceTo(collider, x, y, z, fromX, fromY, fromZ, reach);
}

/** Keeps in a contact how far the collider's surface has carried the place that was measured last. */
// @ts-ignore: decorator
@inline
function keepCarry(contact: usize): void {
  store<f32>(contact, <f32>carryX, 48);
  store<f32>(contact, <f32>carryY, 52);
  store<f32>(contact, <f32>carryZ, 56);
}

// @ts-ignore: decorator
@inline
function alongNormal(v: v128): f64 {
  return (
    normalX * <f64>f32x4.extract_lane(v, 0) +
    normalY * <f64>f32x4.extract_lane(v, 1) +
    normalZ * <f64>f32x4.extract_lane(v, 2)
  );
}

// @ts-ignore: decorator
@inline
function planeOf(search: usize, i: usize): usize {
  return <usize>load<u32>(search, 24) + i - <usize>load<u32>(search);
}

// @ts-ignore: decorator
@inline
function flagOf(search: usize, i: usize): usize {
  return <usize>load<u32>(search, 28) + ((i - <usize>load<u32>(search)) >> 4);
}

/** Keeps what was measured at a place: as the point's plane and in its candidate. */
// @ts-ignore: decorator
@inline
function keepMeasure(search: usize, candidate: usize, i: usize, place: v128, travel: f32): void {
  const plane = planeOf(search, i);
  store<f32>(plane, <f32>normalX);
  store<f32>(plane, <f32>normalY, 4);
  store<f32>(plane, <f32>normalZ, 8);
  store<f32>(plane, <f32>(distance - alongNormal(place)), 12);
  store<u32>(candidate, <u32>i);
  store<f32>(candidate, <f32>distance, 4);
  store<f32>(candidate, travel, 8);
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
  if (kind != BOX) return;
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
  const candidates = <usize>load<u32>(search, 32);
  let to = <usize>load<u32>(search, 56);
  const start = to;
  const moving = isMoving(collider);
  const isMesh = load<i32>(collider) == MESH;
  // Planes of a moving collider are taken anew wherever an edge may need them.
  const around: f32 = moving ? reach + load<f32>(search, 68) : reach;
  for (let n = 0, count = load<i32>(search, 36); n < count; n++) {
    const candidate = candidates + (<usize>n << 5);
    const i = <usize>load<u32>(candidate);
    const place = placeOf(points, displacement, i);
    const slack = load<f32>(candidate, 4) - (travel - load<f32>(candidate, 8)) - around;
    const moved = f32x4.sub(place, v128.load(candidate, 16));
    if (slack > 0 && squareOf(moved) < slack * slack) continue;
    // Looking farther than needed costs little and saves measuring again soon.
    measureFrom(collider, place, v128.load(points + i), <f64>around + 0.02);
    keepMeasure(search, candidate, i, place, travel);
    if (distance >= <f64>reach || load<f32>(points + i, 12) == 0) continue;
    writeContact(to, i, i, i, 1, 0, 0);
    if (isMesh) keepCarry(to);
    v128.store(to, v128.load(planeOf(search, i)), 32);
    to += CONTACT;
  }
  const edges = <usize>load<u32>(search, 40);
  for (let n = 0, count = load<i32>(search, 44); n < count; n++) {
    if (!nearestOnEdge(points, displacement, search, edges + (<usize>n << 3), reach, to)) continue;
    if (isMesh) measureContact(points, displacement, collider, to, reach);
    to += CONTACT;
  }
  const faces = <usize>load<u32>(search, 48);
  const inFaces = reach - load<f32>(collider, 88);
  for (let n = 0, count = load<i32>(search, 52); n < count; n++) {
    if (nearestOnFace(points, displacement, search, faces + <usize>n * 12, inFaces, to)) to += CONTACT;
  }
  store<i32>(search, <i32>((to - start) / CONTACT), 60);
}

// @ts-ignore: decorator
@inline
function squareOf(v: v128): f32 {
  const s = f32x4.mul(v, v);
  return (
    f32x4.extract_lane(s, 0) + f32x4.extract_lane(s, 1) + f32x4.extract_lane(s, 2)
  );
}

// @ts-ignore: decorator
@inline
function writeContact(to: usize, i: usize, j: usize, k: usize, a: f32, b: f32, c: f32): void {
  store<u32>(to, <u32>i);
  store<u32>(to, <u32>j, 4);
  store<u32>(to, <u32>k, 8);
  store<f32>(to, a, 16);
  store<f32>(to, b, 20);
  store<f32>(to, c, 24);
  store<f32>(to, 0, 28);
}

// @ts-ignore: decorator
@inline
function dot(plane: v128, v: v128): f32 {
  const m = f32x4.mul(plane, v);
  return (
    f32x4.extract_lane(m, 0) + f32x4.extract_lane(m, 1) + f32x4.extract_lane(m, 2)
  );
}

// @ts-ignore: decorator
@inline
function sameNormal(a: v128, b: v128): bool {
  return (i32x4.bitmask(f32x4.eq(a, b)) & 7) == 7;
}

/** Where the planes of an edge's ends meet between them, if that lies within reach. */
function nearestOnEdge(
  points: usize,
  displacement: usize,
  search: usize,
  edge: usize,
  reach: f32,
  to: usize,
): bool {
  const i = <usize>load<u32>(edge),
    j = <usize>load<u32>(edge, 4);
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

/** The corner of a box, in the world, that is nearest to a place. */
// @ts-ignore: decorator
@inline
function cornerNearest(collider: usize, place: v128): v128 {
  const away = f32x4.sub(place, v128.load(collider, 16));
  const x = v128.load(collider, 32),
    y = v128.load(collider, 44),
    z = v128.load(collider, 56);
  const hx = load<f32>(collider, 68),
    hy = load<f32>(collider, 72),
    hz = load<f32>(collider, 76);
  return f32x4.add(
    v128.load(collider, 16),
    f32x4.add(
      f32x4.mul(x, f32x4.splat(dot(x, away) < 0 ? -hx : hx)),
      f32x4.add(
        f32x4.mul(y, f32x4.splat(dot(y, away) < 0 ? -hy : hy)),
        f32x4.mul(z, f32x4.splat(dot(z, away) < 0 ? -hz : hz)),
      ),
    ),
  );
}

/**
 * The same for a face: the place inside it that is nearest to a corner of the box, else where the planes of its three
 * corners meet.
 */
function nearestOnFace(
  points: usize,
  displacement: usize,
  search: usize,
  face: usize,
  reach: f32,
  to: usize,
): bool {
  const i = <usize>load<u32>(face),
    j = <usize>load<u32>(face, 4),
    k = <usize>load<u32>(face, 8);
  const planeA = v128.load(planeOf(search, i)),
    planeB = v128.load(planeOf(search, j)),
    planeC = v128.load(planeOf(search, k));
  // Where all three see the same side of the box, none of its corners can come between them.
  if (sameNormal(planeA, planeB) && sameNormal(planeB, planeC)) return false;
  const a = placeOf(points, displacement, i);
  const ab = f32x4.sub(placeOf(points, displacement, j), a),
    ac = f32x4.sub(placeOf(points, displacement, k), a);
  const third = f32x4.splat(<f32>(1.0 / 3.0));
  const corner = cornerNearest(
    <usize>load<u32>(search, 64),
    f32x4.add(a, f32x4.mul(f32x4.add(ab, ac), third)),
  );
  const ap = f32x4.sub(corner, a);
  const bb = dot(ab, ab),
    bc = dot(ab, ac),
    cc = dot(ac, ac),
    pb = dot(ap, ab),
    pc = dot(ap, ac);
  const span = bb * cc - bc * bc;
  if (span > 0) {
    const v = (cc * pb - bc * pc) / span,
      w = (bb * pc - bc * pb) / span;
    if (v > 0.02 && w > 0.02 && v + w < 0.98) {
      const off = f32x4.sub(
        ap,
        f32x4.add(f32x4.mul(ab, f32x4.splat(v)), f32x4.mul(ac, f32x4.splat(w))),
      );
      const within = reach + CORNER_DEPTH;
      if (squareOf(off) < within * within) {
        writeContact(to, i, j, k, 1 - v - w, v, w);
        return true;
      }
    }
  }
  // Distance at a + v ab + w ac by each plane: d + v pV + w pW.
  const aV = dot(planeA, ab),
    aW = dot(planeA, ac),
    dA = dot(planeA, a) + f32x4.extract_lane(planeA, 3);
  const bV = dot(planeB, ab),
    bW = dot(planeB, ac),
    dB = dot(planeB, a) + f32x4.extract_lane(planeB, 3);
  const cV = dot(planeC, ab),
    cW = dot(planeC, ac),
    dC = dot(planeC, a) + f32x4.extract_lane(planeC, 3);
  const m00 = aV - bV,
    m01 = aW - bW,
    m10 = aV - cV,
    m11 = aW - cW;
  const determinant = m00 * m11 - m01 * m10;
  if (Mathf.abs(determinant) < 1e-12) return false;
  const v = ((dB - dA) * m11 - m01 * (dC - dA)) / determinant,
    w = (m00 * (dC - dA) - (dB - dA) * m10) / determinant;
  if (!(v > 0.02 && w > 0.02 && v + w < 0.98) || dA + v * aV + w * aW >= reach) return false;
  writeContact(to, i, j, k, 1 - v - w, v, w);
  return true;
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

/** The place of a contact on its probe, by its weights. */
// @ts-ignore: decorator
@inline
function weighted(a: v128, b: v128, c: v128, contact: usize): v128 {
  return f32x4.add(
    f32x4.mul(a, v128.load32_splat(contact, 16)),
    f32x4.add(
      f32x4.mul(b, v128.load32_splat(contact, 20)),
      f32x4.mul(c, v128.load32_splat(contact, 24)),
    ),
  );
}

/**
 * Keeps the contacts at the collider's target distance, with Coulomb friction on the motion of this substep relative to
 * the collider's own. `push` in m is the farthest that cloth which is already too near moves out in one substep, so
 * that a bad start comes out at a bounded speed instead of exploding.
 * Returns how many probes touch.
 */
export function solveContacts(
  points: usize,
  displacement: usize,
  residual: usize,
  search: usize,
  push: f32,
): i32 {
  const contacts = <usize>load<u32>(search, 56);
  const count = load<i32>(search, 60);
  const collider = <usize>load<u32>(search, 64);
  const target = <f64>load<f32>(collider, 12);
  const staticFriction = <f64>load<f32>(collider, 4),
    movingFriction = <f64>load<f32>(collider, 8);
  const moving = isMoving(collider);
  const isMesh = load<i32>(collider) == MESH;
  const deforming = changesShape(collider);
  const bounces = load<f32>(collider, 92) > 0;
  // The inside of a face may come this much nearer: a corner of a box that holds a whole face off its full clearance
  // stretches that one face (4.6 % instead of 2.6 % on the crate cover), and the clearance is there to be used.
  const spared = <f64>load<f32>(collider, 88);
  let touching = 0;
  for (let n = 0; n < count; n++) {
    const contact = contacts + <usize>n * CONTACT;
    const i = <usize>load<u32>(contact),
      j = <usize>load<u32>(contact, 4),
      k = <usize>load<u32>(contact, 8);
    let place: v128, motion: v128;
    if (i == j) {
      const d = v128.load(displacement + i);
      place = f32x4.add(v128.load(points + i), d);
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
      ux -= <f64>load<f32>(contact, 48);
      uy -= <f64>load<f32>(contact, 52);
      uz -= <f64>load<f32>(contact, 56);
    }
    const path = ux * ux + uy * uy + uz * uz;
    if (isMesh) {
      // Measured in this substep already: a mesh is too dear to be asked in every pass, and within a pass its plane will do.
      const normal = v128.load(contact, 32);
      setDistance(
        <f64>(dot(normal, place) + f32x4.extract_lane(normal, 3)),
        <f64>f32x4.extract_lane(normal, 0),
        <f64>f32x4.extract_lane(normal, 1),
        <f64>f32x4.extract_lane(normal, 2),
      );
    } else distanceTo(collider, x, y, z, fromX, fromY, fromZ, target + Math.sqrt(path));
    const depth = target - distance - (k != j ? spared : 0);
    if (depth <= 0) continue;
    const nx = normalX,
      ny = normalY,
      nz = normalZ;
    const along = ux * nx + uy * ny + uz * nz;
    // What came nearer in this substep is undone, and its impulse is what friction works with. What was too near
    // before is moved out without giving it speed: both ends of the substep's motion are shifted.
    const stop = Math.min(depth, Math.max(-along, 0));
    const shift = Math.min(depth - stop, <f64>push);
    touching++;
    let cx = stop * nx,
      cy = stop * ny,
      cz = stop * nz;
    const tx = ux - along * nx,
      ty = uy - along * ny,
      tz = uz - along * nz;
    const slide = Math.sqrt(tx * tx + ty * ty + tz * tz);
    if (slide > 0) {
      const held = slide <= staticFriction * stop;
      const share = held ? 1 : Math.min(1, (movingFriction * stop) / slide);
      cx -= share * tx;
      cy -= share * ty;
      cz -= share * tz;
    }
    if (bounces && <f32>-along > load<f32>(contact, 28)) {
      // How it came, and how fast the surface itself goes along its normal.
      store<f32>(contact, <f32>-along, 28);
      const own =
        <f64>f32x4.extract_lane(motion, 0) * nx +
        <f64>f32x4.extract_lane(motion, 1) * ny +
        <f64>f32x4.extract_lane(motion, 2) * nz;
      store<f32>(contact, <f32>(own - along), 12);
      v128.store(contact, f32x4(<f32>nx, <f32>ny, <f32>nz, load<f32>(contact, 44)), 32);
    }
    const out = f32x4(<f32>(shift * nx), <f32>(shift * ny), <f32>(shift * nz), 0);
    const move = f32x4.add(f32x4(<f32>cx, <f32>cy, <f32>cz, 0), out);
    if (i == j) {
      add(displacement + i, move, 1);
      if (shift > 0) add(residual + i, out, 1);
      continue;
    }
    const a = load<f32>(contact, 16),
      b = load<f32>(contact, 20),
      c = load<f32>(contact, 24);
    const wa = a * load<f32>(points + i, 12),
      wb = b * load<f32>(points + j, 12),
      wc = c * load<f32>(points + k, 12);
    const total = a * wa + b * wb + c * wc;
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

// @ts-ignore: decorator
@inline
function add(to: usize, v: v128, scale: f32): void {
  v128.store(to, f32x4.add(v128.load(to), f32x4.mul(v, f32x4.splat(scale))));
}

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

let deepestPlace: v128 = f32x4.splat(0);

/** A coordinate of where the last `deepestContact` was, in m. */
export function deepestCoordinate(axis: i32): f32 {
  return axis == 0
    ? f32x4.extract_lane(deepestPlace, 0)
    : axis == 1
      ? f32x4.extract_lane(deepestPlace, 1)
      : f32x4.extract_lane(deepestPlace, 2);
}

/**
 * The deepest that cloth is inside the collider, in m: how far beyond its surface, clearance not counted. Negative when it
 * keeps off everywhere; -1 when it is nowhere near. Uses the search, which must gather anew afterwards.
 */
export function deepestContact(points: usize, residual: usize, search: usize): f64 {
  const collider = <usize>load<u32>(search, 64);
  gatherContacts(points, residual, search, 0.05, 0);
  nearContacts(points, residual, search, 0.05, 0);
  const contacts = <usize>load<u32>(search, 56);
  let deepest: f64 = -1;
  for (let n = 0, count = load<i32>(search, 60); n < count; n++) {
    const contact = contacts + <usize>n * CONTACT;
    const place = weighted(
      placeOf(points, residual, <usize>load<u32>(contact)),
      placeOf(points, residual, <usize>load<u32>(contact, 4)),
      placeOf(points, residual, <usize>load<u32>(contact, 8)),
      contact,
    );
    measure(collider, place, 0.05);
    if (-distance <= deepest) continue;
    deepest = -distance;
    deepestPlace = place;
  }
  return deepest;
}
