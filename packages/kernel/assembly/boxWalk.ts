import { walkStack } from './threads/room';
import * as BoxNode from '../layouts/contact/boxNode';

// Goes through the leaves of a tree of boxes (nodes as in meshDistance.ts) that overlap a box. One walk at a time.

let nodes: usize = 0;
let low: v128 = f32x4.splat(0);
let high: v128 = f32x4.splat(0);
let depth: usize = 0;

/** The first entry of the leaf that `nextLeaf` has come to, and how many it has. */
export let leafFirst: u32 = 0;
export let leafCount: i32 = 0;

// @ts-ignore: decorator
@inline
export function beginWalk(tree: usize, lowCorner: v128, highCorner: v128): void {
  nodes = tree;
  low = lowCorner;
  high = highCorner;
  depth = 1;
  store<u32>(walkStack, 0);
}

/** Goes on to the next leaf; false when there is none. Halved trees are never as deep as the stack. */
export function nextLeaf(): bool {
  while (depth > 0) {
    depth--;
    const node = nodes + <usize>load<u32>(walkStack + (depth << 2)) * BoxNode.BYTES;
    const apart = v128.or(f32x4.gt(v128.load(node, BoxNode.LOW), high), f32x4.lt(v128.load(node, BoxNode.HIGH), low));
    if ((i32x4.bitmask(apart) & 7) != 0) continue;
    leafFirst = load<u32>(node, BoxNode.FIRST);
    leafCount = load<i32>(node, BoxNode.COUNT);
    if (leafCount != 0) return true;
    store<u32>(walkStack + (depth << 2), leafFirst);
    store<u32>(walkStack + (depth << 2), leafFirst + 1, 4);
    depth += 2;
  }
  return false;
}
