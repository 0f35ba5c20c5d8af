import { cloths, nodes, tasks } from './data';
import { isAlone } from '../threads/pool';
import { pairStack } from '../threads/room';
import { childrenThatMeet, firstChild, isLeaf, isMarked, leafTriangle, mayMeet } from './tree';
import * as Cloth from '../../layouts/layers/layerCloth';
import * as Node from '../../layouts/layers/layerNode';

// Two trees gone through together: every pair of triangles whose boxes meet, each pair once. On several threads the upper part of the trees is
// opened first; what is left to be gone through below are tasks, in the order in which one thread would come to them.
//
// A task takes 16 bytes: the two nodes, and the numbers of their cloths.
const TASK: usize = 16;

/** There is room for so many tasks, or for one for each two cloths. */
const LEAST_ROOM: i32 = 8192;
/** How often the trees are opened for tasks, by the number of cloths, so that there are no more. */
const FEW: i32 = 4;
const MANY: i32 = 16;
const LEVELS_OF_FEW: u32 = 7;
const LEVELS_OF_MANY: u32 = 4;

/** What `openPair` says of leaves, which cannot be opened. */
const LEAVES: i32 = -1;

let top: usize = 0;

/** The triangles of the pair that `nextPair` has found. */
export let leftTriangle: usize = 0;
export let rightTriangle: usize = 0;

/** Bytes for the tasks of so many cloths, for whoever lays them out. */
export function taskBytes(clothCount: i32): usize {
  return <usize>max(LEAST_ROOM, clothCount * clothCount) * TASK;
}

/** How often trees of so many cloths are opened before tasks are dealt. */
export function levelsFor(clothCount: i32): u32 {
  if (isAlone() || clothCount > MANY) return 0;
  return clothCount > FEW ? LEVELS_OF_MANY : LEVELS_OF_FEW;
}

/** Adds the tasks of two cloths, or of one with itself, to the first `count`; returns how many there are then. */
export function addTasks(a: i32, b: i32, levels: u32, count: i32): i32 {
  if (a != b && !mayMeet(rootOf(a), rootOf(b))) return count;
  push(pairStack, rootOf(a), rootOf(b));
  store<u32>(pairStack, levels, 8);
  for (let at = pairStack + 12; at > pairStack; ) {
    at -= 12;
    const left = <usize>load<u32>(at),
      right = <usize>load<u32>(at, 4);
    const level = load<u32>(at, 8);
    const opened = level == 0 ? LEAVES : openPair(at, left, right, 12);
    if (opened == LEAVES) {
      const task = tasks + <usize>count * TASK;
      push(task, left, right);
      store<i32>(task, a, 8);
      store<i32>(task, b, 12);
      count++;
      continue;
    }
    for (const end = at + <usize>opened; at < end; at += 12) store<u32>(at, level - 1, 8);
  }
  return count;
}

// @ts-ignore: decorator
@inline
export function taskCloth(task: i32, side: usize): i32 {
  return load<i32>(tasks + <usize>task * TASK + (side << 2), 8);
}

/** Begins with all pairs of triangles of a task. */
export function beginPairs(task: i32): void {
  const from = tasks + <usize>task * TASK;
  push(pairStack, <usize>load<u32>(from), <usize>load<u32>(from, 4));
  top = pairStack + 8;
}

/** Finds the next pair; false when there is none left. Boxes may not change in between. */
export function nextPair(): bool {
  return findNext(false);
}

/** Finds the next pair of which one is marked, where `refitStill` has marked them; false when there is none left. */
export function nextMarkedPair(): bool {
  return findNext(true);
}

// @ts-ignore: decorator
@inline
function findNext(marked: bool): bool {
  let at = top;
  while (at > pairStack) {
    at -= 8;
    const left = <usize>load<u32>(at),
      right = <usize>load<u32>(at, 4);
    if (marked && !isMarked(left) && !isMarked(right)) continue;
    const opened = openPair(at, left, right, 8);
    if (opened == LEAVES) {
      if (left == right) continue;
      leftTriangle = leafTriangle(left);
      rightTriangle = leafTriangle(right);
      top = at;
      return true;
    }
    at += <usize>opened;
  }
  top = at;
  return false;
}

/**
 * Pushes what may meet of what two nodes, or one with itself, consist of, `size` bytes each; returns how many bytes that is, or `LEAVES`. The larger one is
 * opened.
 */
// @ts-ignore: decorator
@inline
function openPair(at: usize, left: usize, right: usize, size: usize): i32 {
  const leftLeaf = isLeaf(left);
  let to = at;
  if (left == right) {
    if (leftLeaf) return LEAVES;
    const child = firstChild(left);
    push(to, child, child);
    push(to + size, child + Node.BYTES, child + Node.BYTES);
    to += 2 * size;
    if (mayMeet(child, child + Node.BYTES)) {
      push(to, child, child + Node.BYTES);
      to += size;
    }
    return <i32>(to - at);
  }
  const rightLeaf = isLeaf(right);
  if (leftLeaf && rightLeaf) return LEAVES;
  if (rightLeaf || (!leftLeaf && extent(left) >= extent(right))) {
    const child = firstChild(left);
    const meet = childrenThatMeet(child, right);
    if (meet & 1) {
      push(to, child, right);
      to += size;
    }
    if (meet & 2) {
      push(to, child + Node.BYTES, right);
      to += size;
    }
  } else {
    const child = firstChild(right);
    const meet = childrenThatMeet(child, left);
    if (meet & 1) {
      push(to, left, child);
      to += size;
    }
    if (meet & 2) {
      push(to, left, child + Node.BYTES);
      to += size;
    }
  }
  return <i32>(to - at);
}

// @ts-ignore: decorator
@inline
function push(at: usize, a: usize, b: usize): void {
  store<u32>(at, <u32>a);
  store<u32>(at, <u32>b, 4);
}

// @ts-ignore: decorator
@inline
function extent(node: usize): f32 {
  return load<f32>(node, Node.EXTENT);
}

/** The root of the tree of a cloth. */
// @ts-ignore: decorator
@inline
export function rootOf(cloth: i32): usize {
  return nodes + <usize>load<u32>(cloths + <usize>cloth * Cloth.BYTES, Cloth.ROOT) * Node.BYTES;
}
