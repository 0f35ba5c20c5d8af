import { dataBlock, points, setLayerData, touched } from './data';
import { beginPairs, leftTriangle, nextMarkedPair, nextPair, rightTriangle, taskCloth } from './descent';
import { areOne, beginMeeting, touch } from './meeting';
import { dealTasks } from './query';
import { pass, passed, tell, told } from '../threads/pool';
import { endOf, firstOf, inRange } from '../threads/ranges';
import { refitStill } from './tree';
import * as Crossing from '../../layouts/layers/crossing';
import * as Triangle from '../../layouts/layers/layerTriangle';

// An exact count of what contact must prevent: edges that pass through triangles, of one cloth or of two. It shares the
// tree with the solver but none of its tests.

let found: i32 = 0;
let capacity: i32 = 0;

/**
 * Counts the crossings of edges and triangles where the points are now. The first `most` are left at `touched` as five byte
 * offsets, the ends of the edge and the corners of the triangle. The boxes of the last query are brought back by `refit`, where more is to be looked up of it.
 */
export function countCrossings(most: i32): i32 {
  refitStill();
  const count = dealTasks();
  pass<usize>(0, dataBlock);
  const chunks = inRange(countTasks.index, 0, count, max(1, count / 128));
  let total = 0;
  for (let chunk = 0; chunk < chunks; chunk++) total += i32x4.extract_lane(told(chunk), 0);
  // Where any are they are gone through once more, in order, to be listed.
  return total == 0 ? 0 : countIn(0, count, most);
}

/** Lists the crossings of tangled points in the same way, which are all where nothing else can cross: of few faces, at the cost of few. */
export function listTangled(most: i32): i32 {
  refitStill();
  const count = dealTasks();
  found = 0;
  capacity = most;
  for (let task = 0; task < count; task++) {
    beginMeeting(taskCloth(task, 0), taskCloth(task, 1));
    beginPairs(task);
    while (nextMarkedPair()) countTriangles(leftTriangle, rightTriangle);
  }
  return found;
}

function countTasks(chunk: i32): void {
  setLayerData(passed<usize>(0));
  tell(chunk, i32x4.splat(countIn(firstOf(chunk), endOf(chunk), 0)));
}

/** Counts the crossings in tasks from one number up to another, and lists the first `most`. */
function countIn(from: i32, to: i32, most: i32): i32 {
  found = 0;
  capacity = most;
  for (let task = from; task < to; task++) {
    beginMeeting(taskCloth(task, 0), taskCloth(task, 1));
    beginPairs(task);
    while (nextPair()) countTriangles(leftTriangle, rightTriangle);
  }
  return found;
}

// @ts-ignore: decorator
@inline
function countTriangles(s: usize, t: usize): void {
  if (!touch(s, t)) return;
  countEdges(s, t);
  countEdges(t, s);
}

/** The edges that s owns against the triangle t. */
function countEdges(s: usize, t: usize): void {
  const owned = load<u32>(s, Triangle.FLAGS);
  const a = <usize>load<u32>(t, Triangle.CORNER_0),
    b = <usize>load<u32>(t, Triangle.CORNER_1),
    c = <usize>load<u32>(t, Triangle.CORNER_2);
  const xa = v128.load(points + a),
    xb = v128.load(points + b),
    xc = v128.load(points + c);
  const low = f32x4.pmin(f32x4.pmin(xa, xb), xc),
    high = f32x4.pmax(f32x4.pmax(xa, xb), xc);
  for (let n: u32 = 0; n < 3; n++) {
    if ((owned & (Triangle.OWNS_EDGE << n)) == 0) continue;
    const p = <usize>load<u32>(s + (<usize>n << 2)),
      q = <usize>load<u32>(s + (n == 2 ? 0 : (<usize>n + 1) << 2));
    if (areOne(p, a) || areOne(p, b) || areOne(p, c) || areOne(q, a) || areOne(q, b) || areOne(q, c)) continue;
    if (isBeside(v128.load(points + p), v128.load(points + q), low, high)) continue;
    if (!crosses(p, q, a, b, c)) continue;
    if (found < capacity) {
      const to = touched + <usize>found * 20;
      store<u32>(to, <u32>p, Crossing.EDGE_0);
      store<u32>(to, <u32>q, Crossing.EDGE_1);
      store<u32>(to, <u32>a, Crossing.CORNER_0);
      store<u32>(to, <u32>b, Crossing.CORNER_1);
      store<u32>(to, <u32>c, Crossing.CORNER_2);
    }
    found++;
  }
}

/** Whether the box of an edge and another one are apart: most edges are beside what is near them. */
// @ts-ignore: decorator
@inline
function isBeside(p: v128, q: v128, low: v128, high: v128): bool {
  const apart = v128.or(f32x4.lt(f32x4.pmax(p, q), low), f32x4.gt(f32x4.pmin(p, q), high));
  return (i32x4.bitmask(apart) & 7) != 0;
}

// @ts-ignore: decorator
@inline
function coordinate(o: usize, axis: usize, from: usize): f64 {
  return <f64>load<f32>(points + o + axis) - <f64>load<f32>(points + from + axis);
}

/** Six times the volume of the tetrahedron o a b c; its sign says on which side of a b c the point o lies. */
function volume(o: usize, a: usize, b: usize, c: usize): f64 {
  const ax = coordinate(a, 0, o),
    ay = coordinate(a, 4, o),
    az = coordinate(a, 8, o);
  const bx = coordinate(b, 0, o),
    by = coordinate(b, 4, o),
    bz = coordinate(b, 8, o);
  const cx = coordinate(c, 0, o),
    cy = coordinate(c, 4, o),
    cz = coordinate(c, 8, o);
  return ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
}

function crosses(p: usize, q: usize, a: usize, b: usize, c: usize): bool {
  const sideP = volume(p, a, b, c),
    sideQ = volume(q, a, b, c);
  if (sideP * sideQ >= 0) return false;
  const ab = volume(p, q, a, b),
    bc = volume(p, q, b, c),
    ca = volume(p, q, c, a);
  return (ab > 0 && bc > 0 && ca > 0) || (ab < 0 && bc < 0 && ca < 0);
}
