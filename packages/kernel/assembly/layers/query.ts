import {
  clothCount,
  countIn,
  dataBlock,
  escaped,
  faceFlags,
  faces,
  nodes,
  pairCapacity,
  pairs,
  pairTotal,
  pointCount,
  setLayerData,
  touched,
  triangles,
  wakes,
} from './data';
import { considerTriangles } from './considerTriangles';
import {
  addTasks,
  beginPairs,
  leftTriangle,
  levelsFor,
  nextPair,
  rightTriangle,
  rootOf,
  taskCloth,
} from './descent';
import {
  beginListing,
  beginReading,
  clearListing,
  endListing,
  listedBy,
  listingSize,
  readPair,
} from './listing';
import { beginMeeting } from './meeting';
import { considerAhead, considerFrom } from './pairs';
import { pass, passed } from '../threads/pool';
import { endOf, firstOf, inRange } from '../threads/ranges';
import { pairStack } from '../threads/room';
import { forgetSettled } from './settled';
import { measureStars, narrowStars } from './stars';
import { childrenThatMeet, firstChild, fitLeaf, growAbove, isLeaf, leafTriangle, mayMeet, refit } from './tree';
import { enlarge, settleRadius } from './trust';
import * as Block from '../../layouts/layers/layerBlock';
import * as Node from '../../layouts/layers/layerNode';
import * as Pair from '../../layouts/layers/featurePair';
import * as Triangle from '../../layouts/layers/layerTriangle';

/**
 * Lists all pairs that may touch within the horizon; the plan must have been made. Returns their number: more
 * than the capacity means that the list was too short.
 */
export function queryLayers(horizon: f32): i32 {
  refit(horizon);
  measureStars(horizon);
  forgetSettled();
  const count = dealTasks();
  pass<f32>(0, horizon);
  pass<usize>(1, dataBlock);
  clearListing();
  const chunks = inRange(considerTasks.index, 0, count, listingSize(count, 1));
  let total = 0;
  for (let chunk = 0; chunk < chunks; chunk++) total += listedBy(chunk);
  store<i32>(dataBlock, total, Block.PAIR_TOTAL);
  if (total <= pairCapacity) sortByWake(chunks);
  store<i32>(dataBlock, total, Block.SORTED_PAIRS);
  return total;
}

/** Deals what is to be gone through of all cloths that touch; returns how many tasks it is. */
export function dealTasks(): i32 {
  const levels = levelsFor(clothCount);
  let count = 0;
  for (let a = 0; a < clothCount; a++) {
    for (let b = a; b < clothCount; b++) if (beginMeeting(a, b)) count = addTasks(a, b, levels, count);
  }
  return count;
}

/** Considers all pairs of triangles of some tasks that may meet. */
function considerTasks(chunk: i32): void {
  setLayerData(passed<usize>(1));
  considerAhead(passed<f32>(0));
  beginListing();
  for (let task = firstOf(chunk), end = endOf(chunk); task < end; task++) {
    beginMeeting(taskCloth(task, 0), taskCloth(task, 1));
    beginPairs(task);
    while (nextPair()) considerTriangles(leftTriangle, rightTriangle);
  }
  endListing(chunk);
}

/** Counting sort of what the chunks have listed by the waking substep, so that each substep looks at the head of the list only. */
function sortByWake(chunks: i32): void {
  memory.fill(wakes, 0, Block.WAKES_BYTES);
  for (let chunk = 0; chunk < chunks; chunk++) {
    beginReading(chunk);
    for (let n = listedBy(chunk); n > 0; n--) {
      const at = wakes + (min<usize>(<usize>load<i32>(readPair(), Pair.STEP), 64) << 2);
      store<i32>(at, load<i32>(at, 4) + 1, 4);
    }
  }
  for (let k: usize = 0; k < 66; k++) {
    const at = wakes + (k << 2);
    store<i32>(at, load<i32>(at) + load<i32>(at, 4), 4);
  }
  // wakes[w] is now where the pairs of wake w begin; each placed pair moves it on, so that afterwards it is where they end.
  for (let chunk = 0; chunk < chunks; chunk++) {
    beginReading(chunk);
    for (let n = listedBy(chunk); n > 0; n--) {
      const from = readPair();
      const at = wakes + (min<usize>(<usize>load<i32>(from, Pair.STEP), 64) << 2);
      const place = load<i32>(at);
      store<i32>(at, place + 1);
      const to = pairs + <usize>place * Pair.BYTES;
      memory.copy(to, from, Pair.BYTES);
      store<i32>(to, -1, 56);
    }
  }
}

/** How many pairs of the sorted list are awake at a substep of the horizon. */
export function awakePairs(step: i32): i32 {
  return load<i32>(wakes + (<usize>min(step, 64) << 2));
}

/** Enlarges the balls of the first `count` escaped points and lists what they may now meet. */
export function extendLayers(count: i32, step: f32, horizon: f32): void {
  const entries = faces + ((<usize>pointCount + 1) << 2);
  let marked = 0;
  for (let n = 0; n < count; n++) {
    const at = <usize>load<u32>(escaped + (<usize>n << 2));
    enlarge(at, step);
    narrowStars(at);
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
  pass<f32>(0, horizon);
  pass<usize>(1, dataBlock);
  pass<f32>(2, step);
  clearListing();
  const chunks = inRange(considerMarked.index, 0, marked, listingSize(marked, 8));
  appendListed(chunks);
  for (let n = 0; n < marked; n++) {
    store<u8>(faceFlags + <usize>load<u32>(touched + (<usize>n << 2)), 0);
  }
  for (let n = 0; n < count; n++) settleRadius(<usize>load<u32>(escaped + (<usize>n << 2)));
}

/** Looks up some of the marked triangles. */
function considerMarked(chunk: i32): void {
  setLayerData(passed<usize>(1));
  considerFrom(passed<f32>(2), passed<f32>(0));
  beginListing();
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++) {
    const leaf = leafOf(touched + (<usize>n << 2));
    const own = <i32>load<u32>(leafTriangle(leaf), Triangle.CLOTH);
    for (let c = 0; c < clothCount; c++) if (beginMeeting(own, c)) traverseFrom(leaf, rootOf(c));
  }
  endListing(chunk);
}

/** Adds what chunks have listed to the pairs; where the list is too short, only to their number. */
function appendListed(chunks: i32): void {
  const before = pairTotal();
  for (let chunk = 0; chunk < chunks; chunk++) countIn(Block.PAIR_TOTAL, listedBy(chunk));
  if (pairTotal() > pairCapacity) return;
  let to = pairs + <usize>before * Pair.BYTES;
  for (let chunk = 0; chunk < chunks; chunk++) {
    beginReading(chunk);
    for (let n = listedBy(chunk); n > 0; n--, to += Pair.BYTES) memory.copy(to, readPair(), Pair.BYTES);
  }
}

// @ts-ignore: decorator
@inline
function leafOf(entry: usize): usize {
  return nodes + <usize>load<u32>(triangles + <usize>load<u32>(entry) * Triangle.BYTES, Triangle.LEAF) * Node.BYTES;
}

/** One marked leaf against a tree; two marked leaves meet once. */
function traverseFrom(leaf: usize, root: usize): void {
  if (!mayMeet(leaf, root)) return;
  let top = pairStack;
  store<u32>(top, <u32>root);
  top += 4;
  while (top > pairStack) {
    top -= 4;
    const node = <usize>load<u32>(top);
    if (!isLeaf(node)) {
      const child = firstChild(node);
      const meet = childrenThatMeet(child, leaf);
      if (meet & 1) {
        store<u32>(top, <u32>child);
        top += 4;
      }
      if (meet & 2) {
        store<u32>(top, <u32>(child + Node.BYTES));
        top += 4;
      }
      continue;
    }
    if (node == leaf || (node < leaf && load<u8>(faceFlags + <usize>load<u32>(node, Node.FIRST)) != 0)) continue;
    considerTriangles(leafTriangle(leaf), leafTriangle(node));
  }
}
