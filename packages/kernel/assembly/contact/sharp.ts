import { larger, smaller } from '../lanes';
import { beginWalk, leafCount, leafFirst, nextLeaf } from '../boxWalk';
import { localNow, localThen, toWorld } from '../collider';
import { featureNodes, featuresOf } from '../meshDistance';
import { cross, dot, squareOf } from '../vectors';
import { beginList, endList, listInRange } from '../threads/lists';
import { pass, passed, tell, told } from '../threads/pool';
import { endOf, firstOf, inRange } from '../threads/ranges';
import { flagOf, ON_PLANE, placeOf, weighted, writeContact } from './data';
import * as Candidate from '../../layouts/contact/candidate';
import * as Collider from '../../layouts/contact/collider';
import * as Contact from '../../layouts/contact/contact';
import * as Feature from '../../layouts/contact/sharpFeature';
import * as Feeler from '../../layouts/contact/feeler';
import * as LocalPlace from '../../layouts/contact/localPlace';
import * as Search from '../../layouts/contact/search';
import * as SharpPair from '../../layouts/contact/sharpPair';

// The surface of a mesh against the faces and edges of cloth: its sharp points against the inside of faces, and its sharp edges
// against edges. The distance of cloth points from a mesh never sees a tip that comes up between them.

/** Features that came farther through cloth than this in one substep, in m, are not seen. */
const DEEPEST: f32 = 0.01;
/** Cloth that faces a feature from behind, to within this cosine, is on the other side of the collider. */
const FACING: f32 = 0.05;
/** What is nearer than this to a face or edge when the substep begins, in m, is told apart by normals. */
const TOUCHING: f32 = 1e-6;

/** An edge of the surface that meets one of cloth this near to its end meets the point there: as a share of the edge of cloth, and in m at most. */
const AT_END: f32 = 0.01;
const MOST_AT_END: f32 = 0.0005;

/** A list holds until a point has moved by this much, in m, besides how far it would go in AHEAD substeps. */
const LEAST_ROAM: f32 = 0.0015;
const AHEAD: f32 = 12;
const MOST_ROAM: f32 = 0.03;

/** Candidate points and pairs that a thread takes at a time. */
const CHUNK: i32 = 128;
/** A face and a feature may meet in two places; core gives room for so many contacts a pair. */
const MOST_MEETINGS: i32 = 2;
/** Flags of a point: near enough for contact, and with a feature that it may meet. */
const CANDIDATE: u8 = 1;
const HAS_PAIR: u8 = 2;

/** Whether the features of a collider's surface have to be met. */
// @ts-ignore: decorator
@inline
export function hasSharp(collider: usize): bool {
  return load<u32>(collider, Collider.MESH) != 0 && featureNodes(collider) != 0;
}

/**
 * Lists which faces and edges of cloth near a mesh may come within `near` metres of which of its features before any of their points has left
 * where it may roam: most cloth hardly moves while some is thrown about, and pairs grow with the square of how far one looks. Returns
 * how many there are: more than there is room for have to be looked for again with more.
 */
export function gatherSharp(points: usize, displacement: usize, search: usize, near: f32, travel: f32): i32 {
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  store<i32>(search, 0, Search.PAIR_COUNT);
  store<f32>(search, near, Search.PAIRS_REACH);
  store<f32>(search, travel, Search.PAIRS_TRAVEL);
  if (!hasSharp(collider)) return 0;
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, search);
  inRange(beginRoaming.index, 0, load<i32>(search, Search.POINTS_NEAR_COUNT), CHUNK);
  let found = 0;
  const edges = <usize>load<u32>(search, Search.EDGES_NEAR);
  for (let n = 0, count = load<i32>(search, Search.EDGES_NEAR_COUNT); n < count; n++) {
    found = listFeatures(search, edges + <usize>n * Feeler.EDGE_BYTES, 2, near, found);
  }
  const faces = <usize>load<u32>(search, Search.FACES_NEAR);
  for (let n = 0, count = load<i32>(search, Search.FACES_NEAR_COUNT); n < count; n++) {
    found = listFeatures(search, faces + <usize>n * Feeler.FACE_BYTES, 3, near, found);
  }
  store<i32>(search, min(found, load<i32>(search, Search.PAIR_ROOM)), Search.PAIR_COUNT);
  return found;
}

/** Notes where points are, how far they may go from there, and that none has a pair yet. */
function beginRoaming(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    search = passed<usize>(2);
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  const candidates = <usize>load<u32>(search, Search.POINTS_NEAR);
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++) {
    const i = <usize>load<u32>(candidates + <usize>n * Candidate.BYTES, Candidate.POINT);
    const roam = smaller<f32>(MOST_ROAM, LEAST_ROAM + AHEAD * Mathf.sqrt(squareOf(v128.load(displacement + i))));
    const place = placeOf(points, displacement, i);
    const local = localAt(search, i);
    v128.store(local, f32x4.replace_lane(place, 3, roam), LocalPlace.LISTED);
    v128.store(local, localNow(collider, place), LocalPlace.NOW);
    store<u8>(flagOf(search, i), CANDIDATE);
  }
}

/** Whether what `gatherSharp` listed may lack a pair by now. */
export function isSharpOutdated(points: usize, displacement: usize, search: usize, near: f32, travel: f32): bool {
  if (!hasSharp(<usize>load<u32>(search, Search.COLLIDER))) return false;
  if (near > load<f32>(search, Search.PAIRS_REACH)) return true;
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, search);
  pass<f32>(3, travel - load<f32>(search, Search.PAIRS_TRAVEL));
  const chunks = inRange(lookForStray.index, 0, load<i32>(search, Search.POINTS_NEAR_COUNT), CHUNK);
  for (let chunk = 0; chunk < chunks; chunk++) if (i32x4.extract_lane(told(chunk), 0) != 0) return true;
  return false;
}

/** Tells whether a point of the chunk has gone farther than it may. */
function lookForStray(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    search = passed<usize>(2);
  const carried = passed<f32>(3);
  const candidates = <usize>load<u32>(search, Search.POINTS_NEAR);
  let strayed = 0;
  for (let n = firstOf(chunk), end = endOf(chunk); n < end && strayed == 0; n++) {
    const i = <usize>load<u32>(candidates + <usize>n * Candidate.BYTES, Candidate.POINT);
    const from = v128.load(localAt(search, i), LocalPlace.LISTED);
    const left = f32x4.extract_lane(from, 3) - carried;
    if (left < 0 || squareOf(f32x4.sub(placeOf(points, displacement, i), from)) > left * left) strayed = 1;
  }
  tell(chunk, i32x4.splat(strayed));
}

/** Adds the features whose boxes come near the box around an edge (2 corners) or a face (3). */
function listFeatures(
  search: usize,
  probe: usize,
  corners: usize,
  near: f32,
  found: i32,
): i32 {
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  const room = load<i32>(search, Search.PAIR_ROOM);
  const pairs = <usize>load<u32>(search, Search.PAIRS);
  const features = featuresOf(collider);
  const wanted = corners == 3 ? Feature.FLAG_FIRST | Feature.FLAG_SECOND : Feature.FLAG_EDGE;
  let low = f32x4.splat(Infinity),
    high = f32x4.splat(-Infinity);
  let roam: f32 = 0;
  for (let corner: usize = 0; corner < corners; corner++) {
    const local = localAt(search, <usize>load<u32>(probe + (corner << 2)));
    const place = v128.load(local, LocalPlace.NOW);
    low = f32x4.pmin(low, place);
    high = f32x4.pmax(high, place);
    roam = larger<f32>(roam, load<f32>(local, LocalPlace.ROAM));
  }
  low = f32x4.sub(low, f32x4.splat(near + roam));
  high = f32x4.add(high, f32x4.splat(near + roam));
  const before = found;
  beginWalk(featureNodes(collider), low, high);
  while (nextLeaf()) {
    for (let n = 0; n < leafCount; n++) {
      const feature = features + (<usize>leafFirst + n) * Feature.BYTES;
      // A leaf is much larger than what it has: the long edges of a box lie all around it.
      if (!comesNear(feature, wanted, low, high)) continue;
      if (found < room) {
        const pair = pairs + <usize>found * SharpPair.BYTES;
        store<u32>(pair, <u32>probe, SharpPair.PROBE);
        store<u32>(pair, <u32>feature | (corners == 3 ? 1 : 0), SharpPair.FEATURE);
      }
      found++;
    }
  }
  for (let corner: usize = 0; corner < corners && found > before; corner++) {
    store<u8>(flagOf(search, <usize>load<u32>(probe + (corner << 2))), HAS_PAIR);
  }
  return found;
}

/** Whether what is wanted of a feature, its edge or points at its ends, comes into a box. */
// @ts-ignore: decorator
@inline
function comesNear(feature: usize, wanted: i32, low: v128, high: v128): bool {
  const flags = load<i32>(feature, Feature.FLAGS) & wanted;
  if (flags == 0) return false;
  const p = v128.load(<usize>load<u32>(feature, Feature.END_0)),
    q = v128.load(<usize>load<u32>(feature, Feature.END_1));
  if (flags == Feature.FLAG_EDGE) return overlaps(f32x4.pmin(p, q), f32x4.pmax(p, q), low, high);
  return (
    ((flags & Feature.FLAG_FIRST) != 0 && overlaps(p, p, low, high)) ||
    ((flags & Feature.FLAG_SECOND) != 0 && overlaps(q, q, low, high))
  );
}

// @ts-ignore: decorator
@inline
function overlaps(lowA: v128, highA: v128, low: v128, high: v128): bool {
  return (i32x4.bitmask(v128.or(f32x4.gt(lowA, high), f32x4.gt(low, highA))) & 7) == 0;
}

/** Adds what may be nearer than `reach` metres now to the contacts; after `nearContacts`. */
export function nearSharp(points: usize, displacement: usize, search: usize, reach: f32): void {
  const count = load<i32>(search, Search.PAIR_COUNT);
  if (count == 0) return;
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, search);
  pass<f32>(3, reach);
  inRange(placeLocally.index, 0, load<i32>(search, Search.POINTS_NEAR_COUNT), CHUNK);
  const contacts = <usize>load<u32>(search, Search.CONTACTS);
  const from = contacts + <usize>load<i32>(search, Search.CONTACT_COUNT) * Contact.BYTES;
  const end = listInRange(meetPairs.index, count, CHUNK, from, MOST_MEETINGS * <i32>Contact.BYTES);
  store<i32>(search, <i32>((end - contacts) / Contact.BYTES), Search.CONTACT_COUNT);
}

/** Where points that have pairs lie in the collider's axes: once for all of them, since every point has several edges and faces. */
function placeLocally(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    search = passed<usize>(2);
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  const candidates = <usize>load<u32>(search, Search.POINTS_NEAR);
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++) {
    const i = <usize>load<u32>(candidates + <usize>n * Candidate.BYTES, Candidate.POINT);
    if (load<u8>(flagOf(search, i)) != HAS_PAIR) continue;
    const local = localAt(search, i);
    v128.store(local, localNow(collider, placeOf(points, displacement, i)), LocalPlace.NOW);
    v128.store(local, localThen(collider, v128.load(points + i)), LocalPlace.THEN);
  }
}

function meetPairs(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    search = passed<usize>(2);
  const reach = passed<f32>(3);
  const pairs = <usize>load<u32>(search, Search.PAIRS);
  nextContact = beginList(chunk);
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++) {
    const pair = pairs + <usize>n * SharpPair.BYTES;
    const probe = <usize>load<u32>(pair, SharpPair.PROBE);
    const named = load<u32>(pair, SharpPair.FEATURE);
    const feature = <usize>(named & ~1);
    if ((named & 1) == 0) {
      meetEdges(points, displacement, search, probe, feature, reach);
      continue;
    }
    const flags = load<i32>(feature, Feature.FLAGS);
    if (flags & Feature.FLAG_FIRST) {
      const end = load<u32>(feature, Feature.END_0),
        then = load<u32>(feature, Feature.END_0_THEN);
      meetFace(points, displacement, search, probe, end, then, load<u32>(feature, Feature.NORMAL_0), reach);
    }
    if (flags & Feature.FLAG_SECOND) {
      const end = load<u32>(feature, Feature.END_1),
        then = load<u32>(feature, Feature.END_1_THEN);
      meetFace(points, displacement, search, probe, end, then, load<u32>(feature, Feature.NORMAL_1), reach);
    }
  }
  endList(chunk, nextContact);
}

/** Where the next contact is written to. */
let nextContact: usize = 0;

/** What is kept of a point in the collider's axes; see localPlace. */
// @ts-ignore: decorator
@inline
function localAt(search: usize, i: usize): usize {
  return <usize>load<u32>(search, Search.PLACES) + ((i - <usize>load<u32>(search, Search.FIRST_POINT)) >> 4) * LocalPlace.BYTES;
}

/** Whether a box is farther than `reach` metres from that around two ends. */
// @ts-ignore: decorator
@inline
function isApart(low: v128, high: v128, p: v128, q: v128, reach: f32): bool {
  const far = f32x4.splat(reach);
  const apart = v128.or(
    f32x4.gt(f32x4.sub(low, f32x4.pmax(p, q)), far),
    f32x4.gt(f32x4.sub(f32x4.pmin(p, q), high), far),
  );
  return (i32x4.bitmask(apart) & 7) != 0;
}

// @ts-ignore: decorator
@inline
function scaled(v: v128, by: f32): v128 {
  return f32x4.mul(v, f32x4.splat(by));
}

/** A point of the surface, and where it was when the substep began, against the inside of a face. */
function meetFace(
  points: usize,
  displacement: usize,
  search: usize,
  face: usize,
  point: usize,
  pointThen: usize,
  normal: usize,
  reach: f32,
): void {
  const i = <usize>load<u32>(face, Feeler.POINT_0),
    j = <usize>load<u32>(face, Feeler.POINT_1),
    k = <usize>load<u32>(face, Feeler.POINT_2);
  const la = localAt(search, i),
    lb = localAt(search, j),
    lc = localAt(search, k);
  const a = v128.load(la, LocalPlace.NOW),
    b = v128.load(lb, LocalPlace.NOW),
    c = v128.load(lc, LocalPlace.NOW);
  const p = v128.load(point);
  const far = larger<f32>(reach, DEEPEST);
  if (isApart(f32x4.pmin(f32x4.pmin(a, b), c), f32x4.pmax(f32x4.pmax(a, b), c), p, p, far)) return;
  const ab = f32x4.sub(b, a),
    ac = f32x4.sub(c, a),
    ap = f32x4.sub(p, a);
  const bb = dot(ab, ab),
    bc = dot(ab, ac),
    cc = dot(ac, ac),
    pb = dot(ap, ab),
    pc = dot(ap, ac);
  const span = bb * cc - bc * bc;
  if (!(span > 1e-18)) return;
  const v = (cc * pb - bc * pc) / span,
    w = (bb * pc - bc * pb) / span;
  if (!(v >= 0 && w >= 0 && v + w <= 1)) return;
  let m = cross(ab, ac);
  const size = Mathf.sqrt(squareOf(m));
  if (!(size > 1e-12)) return;
  m = scaled(m, 1 / size);
  const now = -dot(m, f32x4.sub(ap, f32x4.add(scaled(ab, v), scaled(ac, w))));
  // On which side of the face the point was when the substep began: there the cloth belongs.
  const a0 = v128.load(la, LocalPlace.THEN),
    ab0 = f32x4.sub(v128.load(lb, LocalPlace.THEN), a0),
    ac0 = f32x4.sub(v128.load(lc, LocalPlace.THEN), a0);
  const m0 = cross(ab0, ac0);
  const size0 = Mathf.sqrt(squareOf(m0));
  if (!(size0 > 1e-12)) return;
  const p0 = v128.load(pointThen);
  const off0 = f32x4.sub(f32x4.add(a0, f32x4.add(scaled(ab0, v), scaled(ac0, w))), p0);
  const then = dot(m0, off0) / size0;
  keepContact(points, displacement, search, m, now, then, normal, f32x4.sub(p, p0), i, j, k, 1 - v - w, v, w, reach);
}

/** An edge of the surface against an edge of cloth. */
function meetEdges(
  points: usize,
  displacement: usize,
  search: usize,
  edge: usize,
  feature: usize,
  reach: f32,
): void {
  const i = <usize>load<u32>(edge, Feeler.POINT_0),
    j = <usize>load<u32>(edge, Feeler.POINT_1);
  const la = localAt(search, i),
    lb = localAt(search, j);
  const a = v128.load(la, LocalPlace.NOW),
    b = v128.load(lb, LocalPlace.NOW),
    u = f32x4.sub(b, a);
  const p = v128.load(<usize>load<u32>(feature, Feature.END_0)),
    q = v128.load(<usize>load<u32>(feature, Feature.END_1)),
    w = f32x4.sub(q, p);
  if (isApart(f32x4.pmin(a, b), f32x4.pmax(a, b), p, q, larger<f32>(reach, DEEPEST))) return;
  const off = f32x4.sub(a, p);
  const uu = dot(u, u),
    uw = dot(u, w),
    ww = dot(w, w),
    uo = dot(u, off),
    wo = dot(w, off);
  const span = uu * ww - uw * uw;
  // Edges that run alike meet at their ends, which are points.
  if (!(span > 1e-4 * uu * ww)) return;
  const s = (uw * wo - ww * uo) / span,
    t = (uu * wo - uw * uo) / span;
  // Where cloth is coarse, a hundredth of an edge is more than its point is kept off the surface: a corner came up between the two.
  const atEnd = smaller<f32>(AT_END, MOST_AT_END / Mathf.sqrt(uu));
  if (!(s > atEnd && s < 1 - atEnd && t >= 0 && t <= 1)) return;
  let n = cross(u, w);
  n = scaled(n, 1 / Mathf.sqrt(squareOf(n)));
  const now = dot(n, f32x4.sub(f32x4.add(off, scaled(u, s)), scaled(w, t)));
  const a0 = v128.load(la, LocalPlace.THEN),
    u0 = f32x4.sub(v128.load(lb, LocalPlace.THEN), a0);
  const p0 = v128.load(<usize>load<u32>(feature, Feature.END_0_THEN)),
    q0 = v128.load(<usize>load<u32>(feature, Feature.END_1_THEN)),
    w0 = f32x4.sub(q0, p0);
  let n0 = cross(u0, w0);
  const size0 = Mathf.sqrt(squareOf(n0));
  if (!(size0 > 1e-12)) return;
  n0 = scaled(n0, (dot(n0, n) < 0 ? <f32>-1 : <f32>1) / size0);
  const then = dot(n0, f32x4.sub(f32x4.add(f32x4.sub(a0, p0), scaled(u0, s)), scaled(w0, t)));
  const carried = f32x4.add(scaled(f32x4.sub(p, p0), 1 - t), scaled(f32x4.sub(q, q0), t));
  const normal = <usize>load<u32>(feature, Feature.EDGE_NORMAL);
  keepContact(points, displacement, search, n, now, then, normal, carried, i, j, j, 1 - s, s, 0, reach);
}

/**
 * Writes a contact whose cloth is `now` metres along m (in the collider's axes) from the surface, and was `then` when the substep
 * began; `normal` says where the outside is, and `carried` how far the mesh itself has carried the feature.
 */
function keepContact(
  points: usize,
  displacement: usize,
  search: usize,
  m: v128,
  now: f32,
  then: f32,
  normal: usize,
  carried: v128,
  i: usize,
  j: usize,
  k: usize,
  a: f32,
  b: f32,
  c: f32,
  reach: f32,
): void {
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  const side = load<i32>(collider, Collider.SIDE);
  const facing = dot(m, v128.load(normal)) * (side < 0 ? <f32>-1 : <f32>1);
  const sign: f32 = Mathf.abs(then) < TOUCHING ? (facing < 0 ? -1 : 1) : then < 0 ? -1 : 1;
  if (side != 0 && sign * facing < FACING) return;
  const apart = sign * now;
  if (apart >= reach || apart < -DEEPEST) return;
  const to = nextContact;
  writeContact(to, i, j, k, a, b, c);
  const place = weighted(
    placeOf(points, displacement, i),
    placeOf(points, displacement, j),
    placeOf(points, displacement, k),
    to,
  );
  const out = toWorld(collider, scaled(m, sign));
  v128.store(to, f32x4.replace_lane(out, 3, apart - dot(out, place)), Contact.PLANE);
  v128.store(to, f32x4.replace_lane(toWorld(collider, carried), 3, ON_PLANE), Contact.CARRIED);
  nextContact += Contact.BYTES;
}
