import {
  clothCount,
  escaped,
  faceFlags,
  faces,
  nodes,
  pairCapacity,
  pairs,
  pointCount,
  spare,
  stack,
  touched,
  triangles,
} from './data';
import { beginPairs, leftTriangle, nextPair, rightTriangle, rootOf } from './descent';
import { areOne, beginMeeting, distanceOf, frictionOf, touch } from './meeting';
import {
  beginList,
  considerPair,
  continueList,
  EDGES,
  PAIR,
  pairTotal,
  POINT_TRIANGLE,
} from './pairs';
import { forgetSettled } from './settled';
import { firstChild, fitLeaf, growAbove, isLeaf, leafTriangle, mayMeet, NODE, refit } from './tree';
import { enlarge, settleRadius } from './trust';

/** Pairs that were listed by the query, sorted by the substep that wakes them; those added since follow them. */
export let sortedPairs: i32 = 0;
const STARTS: usize = memory.data(130 * 4);

// @ts-ignore: decorator
@inline
function ownsCorner(triangle: usize, corner: u32): bool {
  return (load<u32>(triangle, 12) & (1 << corner)) != 0;
}

// @ts-ignore: decorator
@inline
function ownsEdge(triangle: usize, edge: u32): bool {
  return (load<u32>(triangle, 12) & (8 << edge)) != 0;
}

// @ts-ignore: decorator
@inline
function corner(triangle: usize, n: u32): usize {
  return <usize>load<u32>(triangle + (<usize>n << 2));
}

// @ts-ignore: decorator
@inline
function next(n: u32): u32 {
  return n == 2 ? 0 : n + 1;
}

function cornersAgainst(s: usize, t: usize, thickness: f32, friction: f32): void {
  const t0 = corner(t, 0),
    t1 = corner(t, 1),
    t2 = corner(t, 2);
  for (let n: u32 = 0; n < 3; n++) {
    if (!ownsCorner(s, n)) continue;
    const p = corner(s, n);
    if (areOne(p, t0) || areOne(p, t1) || areOne(p, t2)) continue;
    considerPair(POINT_TRIANGLE, p, t0, t1, t2, thickness, friction);
  }
}

/** Considers all features that two triangles own. */
function considerTriangles(s: usize, t: usize): void {
  if (!touch(s, t)) return;
  const thickness = distanceOf(s, t),
    friction = frictionOf(s, t);
  if ((load<u32>(s, 12) & 7) != 0) cornersAgainst(s, t, thickness, friction);
  if ((load<u32>(t, 12) & 7) != 0) cornersAgainst(t, s, thickness, friction);
  for (let n: u32 = 0; n < 3; n++) {
    if (!ownsEdge(s, n)) continue;
    const a = corner(s, n),
      b = corner(s, next(n));
    for (let m: u32 = 0; m < 3; m++) {
      if (!ownsEdge(t, m)) continue;
      const c = corner(t, m),
        d = corner(t, next(m));
      if (areOne(a, c) || areOne(a, d) || areOne(b, c) || areOne(b, d)) continue;
      considerPair(EDGES, a, b, c, d, thickness, friction);
    }
  }
}

/** Considers all pairs of triangles of two cloths, or of one with itself, that may meet. */
function considerCloths(a: i32, b: i32): void {
  if (!beginMeeting(a, b)) return;
  beginPairs(a, b);
  while (nextPair()) considerTriangles(leftTriangle, rightTriangle);
}

/**
 * Lists all pairs that may touch within the horizon; the plan must have been made. Returns their number: more
 * than the capacity means that the list was too short.
 */
export function queryLayers(horizon: f32): i32 {
  refit(horizon);
  forgetSettled();
  beginList(horizon);
  for (let c = 0; c < clothCount; c++) {
    for (let other = c; other < clothCount; other++) considerCloths(c, other);
  }
  if (pairTotal <= pairCapacity) sortByWake();
  sortedPairs = pairTotal;
  return pairTotal;
}

/** Counting sort by the waking substep, so that each substep looks at the head of the list only. */
function sortByWake(): void {
  memory.fill(STARTS, 0, 130 * 4);
  for (let n = 0; n < pairTotal; n++) {
    const wake = <usize>load<i32>(pairs + <usize>n * PAIR, 56);
    const at = STARTS + (min<usize>(wake, 64) << 2);
    store<i32>(at, load<i32>(at, 4) + 1, 4);
  }
  for (let k: usize = 0; k < 66; k++) {
    const at = STARTS + (k << 2);
    store<i32>(at, load<i32>(at) + load<i32>(at, 4), 4);
  }
  memory.copy(spare, pairs, <usize>pairTotal * PAIR);
  // STARTS[w] is now where the pairs of wake w begin; each placed pair moves it on, so that afterwards it is where they end.
  for (let n = 0; n < pairTotal; n++) {
    const from = spare + <usize>n * PAIR;
    const at = STARTS + (min<usize>(<usize>load<i32>(from, 56), 64) << 2);
    const place = load<i32>(at);
    store<i32>(at, place + 1);
    const to = pairs + <usize>place * PAIR;
    memory.copy(to, from, PAIR);
    store<i32>(to, -1, 56);
  }
}

/** How many pairs of the sorted list are awake at a substep of the horizon. */
export function awakePairs(step: i32): i32 {
  return load<i32>(STARTS + (<usize>min(step, 64) << 2));
}

/** Enlarges the balls of the first `count` escaped points and lists what they may now meet. */
export function extendLayers(count: i32, step: f32, horizon: f32): void {
  continueList(step);
  const entries = faces + ((<usize>pointCount + 1) << 2);
  let marked = 0;
  for (let n = 0; n < count; n++) {
    const at = <usize>load<u32>(escaped + (<usize>n << 2));
    enlarge(at, step);
    const slot = faces + ((at >> 4) << 2);
    for (let k = load<u32>(slot), end = load<u32>(slot, 4); k < end; k++) {
      const face = <usize>load<u32>(entries + (<usize>k << 2));
      if (load<u8>(faceFlags + face) != 0) continue;
      store<u8>(faceFlags + face, 1);
      store<u32>(touched + (<usize>marked << 2), <u32>face);
      marked++;
    }
  }
  for (let n = 0; n < marked; n++) {
    const leaf = leafOf(touched + (<usize>n << 2));
    fitLeaf(leaf, horizon);
    growAbove(leaf);
  }
  for (let n = 0; n < marked; n++) {
    const leaf = leafOf(touched + (<usize>n << 2));
    const own = <i32>load<u32>(leafTriangle(leaf), 28);
    for (let c = 0; c < clothCount; c++) {
      if (beginMeeting(own, c)) traverseFrom(leaf, rootOf(c));
    }
  }
  for (let n = 0; n < marked; n++) {
    store<u8>(faceFlags + <usize>load<u32>(touched + (<usize>n << 2)), 0);
  }
  for (let n = 0; n < count; n++) settleRadius(<usize>load<u32>(escaped + (<usize>n << 2)));
}

// @ts-ignore: decorator
@inline
function leafOf(entry: usize): usize {
  return nodes + <usize>load<u32>(triangles + (<usize>load<u32>(entry) << 5), 24) * NODE;
}

/** One marked leaf against a tree; two marked leaves meet once. */
function traverseFrom(leaf: usize, root: usize): void {
  let top = stack;
  store<u32>(top, <u32>root);
  top += 4;
  while (top > stack) {
    top -= 4;
    const node = <usize>load<u32>(top);
    if (!mayMeet(leaf, node)) continue;
    if (!isLeaf(node)) {
      const child = firstChild(node);
      store<u32>(top, <u32>child);
      store<u32>(top, <u32>(child + NODE), 4);
      top += 8;
      continue;
    }
    if (node == leaf || (node < leaf && load<u8>(faceFlags + <usize>load<u32>(node, 12)) != 0)) continue;
    considerTriangles(leafTriangle(leaf), leafTriangle(node));
  }
}

/** Pairs that were added since the query. */
export function pairsBesides(): i32 {
  return pairTotal - sortedPairs;
}
