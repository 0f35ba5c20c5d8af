import { cloths, nodes, stack } from './data';
import { firstChild, isLeaf, leafTriangle, mayMeet, NODE } from './tree';

// Two trees gone through together: every pair of triangles whose boxes meet, each pair once.

let top: usize = 0;

/** The triangles of the pair that `nextPair` has found. */
export let leftTriangle: usize = 0;
export let rightTriangle: usize = 0;

/** Begins with all pairs of triangles of two cloths, or of one with itself. */
export function beginPairs(left: i32, right: i32): void {
  push(stack, rootOf(left), rootOf(right));
  top = stack + 8;
}

/** Finds the next pair; false when there is none left. Boxes may not change in between. */
export function nextPair(): bool {
  let at = top;
  while (at > stack) {
    at -= 8;
    const left = <usize>load<u32>(at),
      right = <usize>load<u32>(at, 4);
    if (left == right) {
      if (isLeaf(left)) continue;
      const child = firstChild(left);
      push(at, child, child);
      push(at + 8, child + NODE, child + NODE);
      push(at + 16, child, child + NODE);
      at += 24;
      continue;
    }
    if (!mayMeet(left, right)) continue;
    const leftLeaf = isLeaf(left),
      rightLeaf = isLeaf(right);
    if (leftLeaf && rightLeaf) {
      leftTriangle = leafTriangle(left);
      rightTriangle = leafTriangle(right);
      top = at;
      return true;
    }
    // The larger one is opened.
    if (rightLeaf || (!leftLeaf && extent(left) >= extent(right))) {
      const child = firstChild(left);
      push(at, child, right);
      push(at + 8, child + NODE, right);
    } else {
      const child = firstChild(right);
      push(at, left, child);
      push(at + 8, left, child + NODE);
    }
    at += 16;
  }
  top = at;
  return false;
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
  const size = f32x4.sub(v128.load(node, 16), v128.load(node));
  return (
    f32x4.extract_lane(size, 0) + f32x4.extract_lane(size, 1) + f32x4.extract_lane(size, 2)
  );
}

/** The root of the tree of a cloth. */
// @ts-ignore: decorator
@inline
export function rootOf(cloth: i32): usize {
  return nodes + <usize>load<u32>(cloths + (<usize>cloth << 5), 8) * NODE;
}
