import { centre, nodeCount, nodes, parents, plan, points, tangled, triangles } from './data';
import * as Node from '../../layouts/layers/layerNode';
import * as Point from '../../layouts/point';
import * as Triangle from '../../layouts/layers/layerTriangle';

// @ts-ignore: decorator
@inline
export function isLeaf(node: usize): bool {
  return load<u32>(node, Node.LEAF) != 0;
}

/** The first child of an inner node; the second follows it. */
// @ts-ignore: decorator
@inline
export function firstChild(node: usize): usize {
  return nodes + <usize>load<u32>(node, Node.FIRST) * Node.BYTES;
}

/** The address of a leaf's triangle. */
// @ts-ignore: decorator
@inline
export function leafTriangle(node: usize): usize {
  return triangles + <usize>load<u32>(node, Node.FIRST) * Triangle.BYTES;
}

/** Writes low and high corner and keeps what the fourth lanes hold. */
// @ts-ignore: decorator
@inline
function writeBox(node: usize, low: v128, high: v128): void {
  v128.store(node, f32x4.replace_lane(low, 3, load<f32>(node, Node.FIRST)), Node.LOW);
  const leaf = load<u32>(node, Node.LEAF);
  v128.store(node, high, Node.HIGH);
  store<u32>(node, leaf, Node.LEAF);
}

/** Sets a leaf's box to where its corners may be: centre and trust radius, and planned motion over `horizon` substeps. */
export function fitLeaf(node: usize, horizon: f32): void {
  const triangle = leafTriangle(node);
  const first = load<u32>(node, Node.FIRST);
  let low = f32x4.splat(f32.MAX_VALUE),
    high = f32x4.splat(-f32.MAX_VALUE),
    least = low,
    most = high;
  const steps = f32x4.splat(horizon);
  for (let corner: usize = 0; corner < 12; corner += 4) {
    const at = <usize>load<u32>(triangle + corner, Triangle.CORNER_0);
    const x = v128.load(centre + at);
    const radius = v128.load32_splat(centre + at, Point.TRUST);
    const u = f32x4.mul(v128.load(plan + at), steps);
    low = f32x4.pmin(low, f32x4.sub(x, radius));
    high = f32x4.pmax(high, f32x4.add(x, radius));
    least = f32x4.pmin(least, u);
    most = f32x4.pmax(most, u);
  }
  v128.store(node, low, Node.LOW);
  store<u32>(node, first, Node.FIRST);
  v128.store(node, high, Node.HIGH);
  store<u32>(node, 1, Node.LEAF);
  v128.store(node, f32x4.replace_lane(least, 3, extent(low, high)), Node.LEAST);
  v128.store(node, most, Node.MOST);
}

/** The sum of the sides of a box. */
// @ts-ignore: decorator
@inline
function extent(low: v128, high: v128): f32 {
  const size = f32x4.sub(high, low);
  return f32x4.extract_lane(size, 0) + f32x4.extract_lane(size, 1) + f32x4.extract_lane(size, 2);
}

function fitInner(node: usize): void {
  const a = firstChild(node),
    b = a + Node.BYTES;
  const first = load<u32>(node, Node.FIRST);
  const low = f32x4.pmin(v128.load(a, Node.LOW), v128.load(b, Node.LOW)),
    high = f32x4.pmax(v128.load(a, Node.HIGH), v128.load(b, Node.HIGH)),
    least = f32x4.pmin(v128.load(a, Node.LEAST), v128.load(b, Node.LEAST));
  v128.store(node, low, Node.LOW);
  store<u32>(node, first, Node.FIRST);
  v128.store(node, high, Node.HIGH);
  store<u32>(node, 0, Node.LEAF);
  v128.store(node, f32x4.replace_lane(least, 3, extent(low, high)), Node.LEAST);
  v128.store(node, f32x4.pmax(v128.load(a, Node.MOST), v128.load(b, Node.MOST)), Node.MOST);
}

/** Fits all boxes, children before parents. */
export function refit(horizon: f32): void {
  for (let n = nodeCount - 1; n >= 0; n--) {
    const node = nodes + <usize>n * Node.BYTES;
    if (isLeaf(node)) fitLeaf(node, horizon);
    else fitInner(node);
  }
}

/** Grows the boxes above a leaf that was fitted anew, as far up as they do not hold it already. */
export function growAbove(leaf: usize): void {
  let child = leaf;
  for (;;) {
    const parent = load<i32>(parents + (((child - nodes) / Node.BYTES) << 2));
    if (parent < 0) return;
    const node = nodes + <usize>parent * Node.BYTES;
    const low = f32x4.pmin(v128.load(node, Node.LOW), v128.load(child, Node.LOW)),
      high = f32x4.pmax(v128.load(node, Node.HIGH), v128.load(child, Node.HIGH));
    const same = v128.and(f32x4.eq(low, v128.load(node, Node.LOW)), f32x4.eq(high, v128.load(node, Node.HIGH)));
    if ((i32x4.bitmask(same) & 7) == 7) return;
    writeBox(node, low, high);
    child = node;
  }
}

/** Whether anything of two boxes can meet within the horizon. */
// @ts-ignore: decorator
@inline
export function mayMeet(a: usize, b: usize): bool {
  const zero = f32x4.splat(0);
  const aLow = f32x4.add(
    v128.load(a, Node.LOW),
    f32x4.pmin(zero, f32x4.sub(v128.load(a, Node.LEAST), v128.load(b, Node.MOST))),
  );
  const bLow = f32x4.add(
    v128.load(b, Node.LOW),
    f32x4.pmin(zero, f32x4.sub(v128.load(b, Node.LEAST), v128.load(a, Node.MOST))),
  );
  const meet = v128.and(
    f32x4.le(aLow, v128.load(b, Node.HIGH)),
    f32x4.le(bLow, v128.load(a, Node.HIGH)),
  );
  return (i32x4.bitmask(meet) & 7) == 7;
}

/** Which of two nodes that follow each other in memory can meet a third: bit 0 for the first, bit 1 for the second. As `mayMeet` for each, but what they have in common is read once. */
// @ts-ignore: decorator
@inline
export function childrenThatMeet(child: usize, other: usize): i32 {
  const low = v128.load(other, Node.LOW),
    high = v128.load(other, Node.HIGH),
    least = v128.load(other, Node.LEAST),
    most = v128.load(other, Node.MOST);
  const first = meets(child, low, high, least, most),
    second = meets(child + Node.BYTES, low, high, least, most);
  return i32(first) | (i32(second) << 1);
}

// @ts-ignore: decorator
@inline
function meets(node: usize, low: v128, high: v128, least: v128, most: v128): bool {
  const zero = f32x4.splat(0);
  const below = f32x4.add(v128.load(node, Node.LOW), f32x4.pmin(zero, f32x4.sub(v128.load(node, Node.LEAST), most))),
    above = f32x4.add(low, f32x4.pmin(zero, f32x4.sub(least, v128.load(node, Node.MOST))));
  const meet = v128.and(f32x4.le(below, high), f32x4.le(above, v128.load(node, Node.HIGH)));
  return (i32x4.bitmask(meet) & 7) == 7;
}

/** Sets a leaf's box to where its corners are now, and marks it where one of them is tangled. */
function fitLeafStill(node: usize): void {
  const triangle = leafTriangle(node);
  let low = f32x4.splat(f32.MAX_VALUE),
    high = f32x4.splat(-f32.MAX_VALUE);
  let mark: u8 = 0;
  for (let corner: usize = 0; corner < 12; corner += 4) {
    const at = <usize>load<u32>(triangle + corner, Triangle.CORNER_0);
    const x = v128.load(points + at);
    low = f32x4.pmin(low, x);
    high = f32x4.pmax(high, x);
    mark |= load<u8>(tangled + (at >> 4));
  }
  writeBox(node, low, high);
  const still = f32x4.splat(0);
  v128.store(node, f32x4.replace_lane(still, 3, extent(low, high)), Node.LEAST);
  v128.store(node, f32x4.replace_lane(still, 3, <f32>mark), Node.MOST);
}

/** Whether anything below a node was marked when all boxes were fitted last, by `refitStill`. */
// @ts-ignore: decorator
@inline
export function isMarked(node: usize): bool {
  return load<f32>(node, Node.MARK) != 0;
}

/**
 * Fits all boxes to where the points are now, without trust or plan, and marks those of tangled points. Trust and plan are kept: `refit` brings back the boxes of
 * a query.
 */
export function refitStill(): void {
  for (let n = nodeCount - 1; n >= 0; n--) {
    const node = nodes + <usize>n * Node.BYTES;
    if (isLeaf(node)) fitLeafStill(node);
    else fitInner(node);
  }
}
