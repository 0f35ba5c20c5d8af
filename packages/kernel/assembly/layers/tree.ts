import { centre, nodeCount, nodes, parents, plan, points, triangles } from './data';

/** Bytes of a node, see data.ts. */
export const NODE: usize = 64;

// @ts-ignore: decorator
@inline
export function isLeaf(node: usize): bool {
  return load<u32>(node, 28) != 0;
}

/** The first child of an inner node; the second follows it. */
// @ts-ignore: decorator
@inline
export function firstChild(node: usize): usize {
  return nodes + <usize>load<u32>(node, 12) * NODE;
}

/** The address of a leaf's triangle. */
// @ts-ignore: decorator
@inline
export function leafTriangle(node: usize): usize {
  return triangles + (<usize>load<u32>(node, 12) << 5);
}

/** Writes low and high corner and keeps what the fourth lanes hold. */
// @ts-ignore: decorator
@inline
function writeBox(node: usize, low: v128, high: v128): void {
  v128.store(node, f32x4.replace_lane(low, 3, load<f32>(node, 12)));
  const leaf = load<u32>(node, 28);
  v128.store(node, high, 16);
  store<u32>(node, leaf, 28);
}

/** Sets a leaf's box to where its corners may be: centre and trust radius, and planned motion over `horizon` substeps. */
export function fitLeaf(node: usize, horizon: f32): void {
  const triangle = leafTriangle(node);
  const first = load<u32>(node, 12);
  let low = f32x4.splat(f32.MAX_VALUE),
    high = f32x4.splat(-f32.MAX_VALUE),
    least = low,
    most = high;
  const steps = f32x4.splat(horizon);
  for (let corner: usize = 0; corner < 12; corner += 4) {
    const at = <usize>load<u32>(triangle + corner);
    const x = v128.load(centre + at);
    const radius = v128.load32_splat(centre + at, 12);
    const u = f32x4.mul(v128.load(plan + at), steps);
    low = f32x4.pmin(low, f32x4.sub(x, radius));
    high = f32x4.pmax(high, f32x4.add(x, radius));
    least = f32x4.pmin(least, u);
    most = f32x4.pmax(most, u);
  }
  v128.store(node, low);
  store<u32>(node, first, 12);
  v128.store(node, high, 16);
  store<u32>(node, 1, 28);
  v128.store(node, least, 32);
  v128.store(node, most, 48);
}

function fitInner(node: usize): void {
  const a = firstChild(node),
    b = a + NODE;
  const first = load<u32>(node, 12);
  v128.store(node, f32x4.pmin(v128.load(a), v128.load(b)));
  store<u32>(node, first, 12);
  v128.store(node, f32x4.pmax(v128.load(a, 16), v128.load(b, 16)), 16);
  store<u32>(node, 0, 28);
  v128.store(node, f32x4.pmin(v128.load(a, 32), v128.load(b, 32)), 32);
  v128.store(node, f32x4.pmax(v128.load(a, 48), v128.load(b, 48)), 48);
}

/** Fits all boxes, children before parents. */
export function refit(horizon: f32): void {
  for (let n = nodeCount - 1; n >= 0; n--) {
    const node = nodes + <usize>n * NODE;
    if (isLeaf(node)) fitLeaf(node, horizon);
    else fitInner(node);
  }
}

/** Grows the boxes above a leaf that was fitted anew, as far up as they do not hold it already. */
export function growAbove(leaf: usize): void {
  let child = leaf;
  for (;;) {
    const parent = load<i32>(parents + (((child - nodes) / NODE) << 2));
    if (parent < 0) return;
    const node = nodes + <usize>parent * NODE;
    const low = f32x4.pmin(v128.load(node), v128.load(child)),
      high = f32x4.pmax(v128.load(node, 16), v128.load(child, 16));
    const same = v128.and(f32x4.eq(low, v128.load(node)), f32x4.eq(high, v128.load(node, 16)));
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
    v128.load(a),
    f32x4.pmin(zero, f32x4.sub(v128.load(a, 32), v128.load(b, 48))),
  );
  const bLow = f32x4.add(
    v128.load(b),
    f32x4.pmin(zero, f32x4.sub(v128.load(b, 32), v128.load(a, 48))),
  );
  const meet = v128.and(
    f32x4.le(aLow, v128.load(b, 16)),
    f32x4.le(bLow, v128.load(a, 16)),
  );
  return (i32x4.bitmask(meet) & 7) == 7;
}

/** Fits all boxes to where the points are now, without trust or plan. What was listed is void afterwards. */
export function refitStill(count: i32): void {
  const end = <usize>count << 4;
  const zero = f32x4.splat(0);
  for (let at: usize = 0; at < end; at += 16) {
    v128.store(centre + at, f32x4.replace_lane(v128.load(points + at), 3, 0));
    v128.store(plan + at, zero);
  }
  refit(0);
}
