import { setDistance } from './collider';
import { distanceStack } from './threads/room';
import * as BoxNode from '../layouts/contact/boxNode';
import * as Collider from '../layouts/contact/collider';
import * as SurfaceMesh from '../layouts/contact/surfaceMesh';
import * as SurfaceTriangle from '../layouts/contact/surfaceTriangle';

// Closest point of a triangle mesh by a tree of boxes. Places are in the collider's own axes.

let closestX: f64 = 0;
let closestY: f64 = 0;
let closestZ: f64 = 0;
/** 0 face, 1 to 3 corners a, b, c, 4 to 6 edges ab, bc, ca. */
let feature: i32 = 0;

/**
 * The triangle that was nearest in the last question, of whichever mesh. The next place is likely near it too, and a first answer that is
 * nearly right leaves few boxes to be opened. It never changes which triangle is found.
 */
export let nearestTriangle: usize = 0;

/** Says which triangle the next question had better look at first. */
// @ts-ignore: decorator
@inline
export function lookFirst(triangle: usize): void {
  nearestTriangle = triangle;
}

/** How far the place of the surface that was nearest has been carried in this substep, in the collider's axes. */
export let carriedX: f64 = 0;
export let carriedY: f64 = 0;
export let carriedZ: f64 = 0;

/** The tree of the sharp features of a collider that is a mesh; 0 where it has none. */
// @ts-ignore: decorator
@inline
export function featureNodes(collider: usize): usize {
  return <usize>load<u32>(<usize>load<u32>(collider, Collider.MESH), SurfaceMesh.SHARP_NODES);
}

// @ts-ignore: decorator
@inline
export function featuresOf(collider: usize): usize {
  return <usize>load<u32>(<usize>load<u32>(collider, Collider.MESH), SurfaceMesh.SHARP_FEATURES);
}

// @ts-ignore: decorator
@inline
export function isDeforming(mesh: usize): bool {
  return load<u32>(mesh, SurfaceMesh.CORNERS_THEN) != 0;
}

export function noCarry(): void {
  carriedX = carriedY = carriedZ = 0;
}

/**
 * Takes a deforming mesh to a share of its way through the frame, corners, normals and boxes in a straight line; where corners were is kept
 * as the beginning of the substep. The boxes of its sharp features hold for the whole frame.
 */
export function deformMesh(mesh: usize, share: f32): void {
  const triangles = <usize>load<u32>(mesh, SurfaceMesh.TRIANGLES),
    before = <usize>load<u32>(mesh, SurfaceMesh.CORNERS_THEN);
  const from = <usize>load<u32>(mesh, SurfaceMesh.TRIANGLES_FROM),
    to = <usize>load<u32>(mesh, SurfaceMesh.TRIANGLES_TO);
  const count = <usize>load<i32>(mesh, SurfaceMesh.COUNT);
  const corners = SurfaceTriangle.CORNER_BYTES;
  for (let n: usize = 0; n < count; n++) memory.copy(before + n * corners, triangles + n * SurfaceTriangle.BYTES, corners);
  // The arrays are padded to whole vectors.
  between(triangles, from, to, count * SurfaceTriangle.BYTES, share);
  // What moves in a straight line stays between boxes that do; what boxes lead to is the same in both, and stays.
  const nodes = <usize>load<i32>(mesh, SurfaceMesh.NODE_COUNT);
  between(
    <usize>load<u32>(mesh, SurfaceMesh.NODES),
    <usize>load<u32>(mesh, SurfaceMesh.NODES_FROM),
    <usize>load<u32>(mesh, SurfaceMesh.NODES_TO),
    nodes * BoxNode.BYTES,
    share,
  );
}

/** Writes so many bytes of numbers that have come a share of the way from some to others. */
function between(out: usize, from: usize, to: usize, bytes: usize, share: f32): void {
  const s = f32x4.splat(share);
  for (let at: usize = 0; at < bytes; at += 16) {
    const a = v128.load(from + at);
    v128.store(out + at, f32x4.add(a, f32x4.mul(f32x4.sub(v128.load(to + at), a), s)));
  }
}

/** Where the corners weigh in at a place of a triangle, and how far they have carried it since the substep began. */
function setCarried(triangle: usize, before: usize, x: f64, y: f64, z: f64): void {
  const ux = <f64>load<f32>(triangle, SurfaceTriangle.CORNER_1) - <f64>load<f32>(triangle, SurfaceTriangle.CORNERS),
    uy = <f64>load<f32>(triangle, SurfaceTriangle.CORNER_1 + 4) - <f64>load<f32>(triangle, SurfaceTriangle.CORNERS + 4),
    uz = <f64>load<f32>(triangle, SurfaceTriangle.CORNER_1 + 8) - <f64>load<f32>(triangle, SurfaceTriangle.CORNERS + 8);
  const vx = <f64>load<f32>(triangle, SurfaceTriangle.CORNER_2) - <f64>load<f32>(triangle, SurfaceTriangle.CORNERS),
    vy = <f64>load<f32>(triangle, SurfaceTriangle.CORNER_2 + 4) - <f64>load<f32>(triangle, SurfaceTriangle.CORNERS + 4),
    vz = <f64>load<f32>(triangle, SurfaceTriangle.CORNER_2 + 8) - <f64>load<f32>(triangle, SurfaceTriangle.CORNERS + 8);
  const px = x - <f64>load<f32>(triangle, SurfaceTriangle.CORNERS),
    py = y - <f64>load<f32>(triangle, SurfaceTriangle.CORNERS + 4),
    pz = z - <f64>load<f32>(triangle, SurfaceTriangle.CORNERS + 8);
  const uu = ux * ux + uy * uy + uz * uz,
    uv = ux * vx + uy * vy + uz * vz,
    vv = vx * vx + vy * vy + vz * vz;
  const pu = px * ux + py * uy + pz * uz,
    pv = px * vx + py * vy + pz * vz;
  const span = uu * vv - uv * uv;
  let b: f64 = 1.0 / 3.0,
    c: f64 = 1.0 / 3.0;
  if (span > 0) {
    b = (vv * pu - uv * pv) / span;
    c = (uu * pv - uv * pu) / span;
  }
  const a = 1 - b - c;
  carriedX = moved(triangle, before, 0, a, b, c);
  carriedY = moved(triangle, before, 4, a, b, c);
  carriedZ = moved(triangle, before, 8, a, b, c);
}

// @ts-ignore: decorator
@inline
function moved(triangle: usize, before: usize, axis: usize, a: f64, b: f64, c: f64): f64 {
  const now = triangle + axis,
    then = before + axis;
  return (
    a * (<f64>load<f32>(now) - <f64>load<f32>(then)) +
    b * (<f64>load<f32>(now, 12) - <f64>load<f32>(then, 12)) +
    c * (<f64>load<f32>(now, 24) - <f64>load<f32>(then, 24))
  );
}

/** What is nearest to a place within its reach; with no reach, of nothing but the triangle that is looked at first. */
export function meshDistance(
  mesh: usize,
  sided: bool,
  x: f64,
  y: f64,
  z: f64,
  fromX: f64,
  fromY: f64,
  fromZ: f64,
  reach: f64,
): void {
  const nodes = <usize>load<u32>(mesh, SurfaceMesh.NODES),
    triangles = <usize>load<u32>(mesh, SurfaceMesh.TRIANGLES);
  const place = f32x4(<f32>x, <f32>y, <f32>z, 0);
  let best = reach * reach;
  const end = triangles + <usize>load<i32>(mesh, SurfaceMesh.COUNT) * SurfaceTriangle.BYTES;
  if (nearestTriangle >= triangles && nearestTriangle < end) {
    // A little more than that, so that the search itself finds it, and of equally near ones always the same.
    const square = squareToTriangle(nearestTriangle, x, y, z) * 1.000001 + 1e-18;
    if (square < best) best = square;
  }
  let bestTriangle: usize = 0;
  let bestFeature = 0;
  let cx: f64 = 0,
    cy: f64 = 0,
    cz: f64 = 0;
  let depth: usize = 0;
  let node = nodes;
  let near = boxDistanceSquared(node, place);
  if (reach == 0) {
    best = squareToTriangle(nearestTriangle, x, y, z);
    bestTriangle = nearestTriangle;
    bestFeature = feature;
    cx = closestX;
    cy = closestY;
    cz = closestZ;
    near = Infinity;
  }
  for (;;) {
    if (near < best) {
      const count = load<i32>(node, BoxNode.COUNT);
      const first = load<u32>(node, BoxNode.FIRST);
      if (count == 0) {
        const left = nodes + <usize>first * BoxNode.BYTES;
        const toLeft = boxDistanceSquared(left, place),
          toRight = boxDistanceSquared(left + BoxNode.BYTES, place);
        // The nearer child is looked at first.
        const leftFirst = toLeft <= toRight;
        const later = leftFirst ? toRight : toLeft;
        if (later < best) {
          store<u32>(distanceStack + (depth << 4), <u32>(leftFirst ? left + BoxNode.BYTES : left));
          store<f64>(distanceStack + (depth << 4), later, 8);
          depth++;
        }
        node = leftFirst ? left : left + BoxNode.BYTES;
        near = leftFirst ? toLeft : toRight;
        continue;
      }
      for (let n = 0; n < count; n++) {
        const triangle = triangles + (<usize>first + n) * SurfaceTriangle.BYTES;
        const square = squareToTriangle(triangle, x, y, z);
        if (square < best) {
          best = square;
          bestTriangle = triangle;
          bestFeature = feature;
          cx = closestX;
          cy = closestY;
          cz = closestZ;
        }
      }
    }
    if (depth == 0) break;
    depth--;
    node = <usize>load<u32>(distanceStack + (depth << 4));
    near = load<f64>(distanceStack + (depth << 4), 8);
  }
  nearestTriangle = bestTriangle;
  if (bestTriangle == 0) {
    setDistance(reach, 0, 1, 0);
    return;
  }
  const length = Math.sqrt(best);
  const normal = bestTriangle + SurfaceTriangle.NORMAL + <usize>bestFeature * SurfaceTriangle.VECTOR;
  const nx = <f64>load<f32>(normal, 0),
    ny = <f64>load<f32>(normal, 4),
    nz = <f64>load<f32>(normal, 8);
  const before = <usize>load<u32>(mesh, SurfaceMesh.CORNERS_THEN);
  if (before != 0) {
    const index = (bestTriangle - triangles) / SurfaceTriangle.BYTES;
    setCarried(bestTriangle, before + index * SurfaceTriangle.CORNER_BYTES, cx, cy, cz);
    fromX += carriedX;
    fromY += carriedY;
    fromZ += carriedZ;
  }
  // Where both sides count, the point belongs to the side on which the substep began.
  const side =
    sided
      ? (x - cx) * nx + (y - cy) * ny + (z - cz) * nz
      : (fromX - cx) * nx + (fromY - cy) * ny + (fromZ - cz) * nz;
  const facing: f64 = side < 0 ? -1 : 1;
  if (sided) {
    if (length < 1e-9) setDistance(0, nx, ny, nz);
    else
      setDistance(
        facing * length,
        (facing * (x - cx)) / length,
        (facing * (y - cy)) / length,
        (facing * (z - cz)) / length,
      );
    return;
  }
  const now = (x - cx) * nx + (y - cy) * ny + (z - cz) * nz;
  const crossed = now * side < 0;
  if (length < 1e-9) setDistance(0, facing * nx, facing * ny, facing * nz);
  else {
    const sign: f64 = crossed ? -1 : 1;
    setDistance(
      sign * length,
      (sign * (x - cx)) / length,
      (sign * (y - cy)) / length,
      (sign * (z - cz)) / length,
    );
  }
}

/** Square of the distance to a node's box, in single precision and a little too small rather than too large. */
// @ts-ignore: decorator
@inline
function boxDistanceSquared(node: usize, place: v128): f64 {
  // The fourth lanes hold a corner and a count; they are not summed.
  const below = f32x4.sub(v128.load(node, BoxNode.LOW), place),
    above = f32x4.sub(place, v128.load(node, BoxNode.HIGH));
  const away = f32x4.pmax(f32x4.pmax(below, above), f32x4.splat(0));
  const s = f32x4.mul(away, away);
  const square =
    f32x4.extract_lane(s, 0) + f32x4.extract_lane(s, 1) + f32x4.extract_lane(s, 2);
  return <f64>square * 0.9999 - 1e-9;
}

// @ts-ignore: decorator
@inline
function setClosest(x: f64, y: f64, z: f64, which: i32): void {
  closestX = x;
  closestY = y;
  closestZ = z;
  feature = which;
}

/** Square of the distance to a triangle; leaves where it is closest. */
// @ts-ignore: decorator
@inline
function squareToTriangle(triangle: usize, x: f64, y: f64, z: f64): f64 {
  closestOnTriangle(triangle, x, y, z);
  const dx = x - closestX,
    dy = y - closestY,
    dz = z - closestZ;
  return dx * dx + dy * dy + dz * dz;
}

/** Ericson 2005, "Real-Time Collision Detection", section 5.1.5. */
function closestOnTriangle(t: usize, x: f64, y: f64, z: f64): void {
  const ax = <f64>load<f32>(t, SurfaceTriangle.CORNERS),
    ay = <f64>load<f32>(t, SurfaceTriangle.CORNERS + 4),
    az = <f64>load<f32>(t, SurfaceTriangle.CORNERS + 8);
  const abx = <f64>load<f32>(t, SurfaceTriangle.CORNER_1) - ax,
    aby = <f64>load<f32>(t, SurfaceTriangle.CORNER_1 + 4) - ay,
    abz = <f64>load<f32>(t, SurfaceTriangle.CORNER_1 + 8) - az;
  const acx = <f64>load<f32>(t, SurfaceTriangle.CORNER_2) - ax,
    acy = <f64>load<f32>(t, SurfaceTriangle.CORNER_2 + 4) - ay,
    acz = <f64>load<f32>(t, SurfaceTriangle.CORNER_2 + 8) - az;
  const apx = x - ax,
    apy = y - ay,
    apz = z - az;
  const d1 = abx * apx + aby * apy + abz * apz,
    d2 = acx * apx + acy * apy + acz * apz;
  if (d1 <= 0 && d2 <= 0) return setClosest(ax, ay, az, 1);
  const bpx = apx - abx,
    bpy = apy - aby,
    bpz = apz - abz;
  const d3 = abx * bpx + aby * bpy + abz * bpz,
    d4 = acx * bpx + acy * bpy + acz * bpz;
  if (d3 >= 0 && d4 <= d3) return setClosest(ax + abx, ay + aby, az + abz, 2);
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) {
    const v = d1 / (d1 - d3);
    return setClosest(ax + v * abx, ay + v * aby, az + v * abz, 4);
  }
  const cpx = apx - acx,
    cpy = apy - acy,
    cpz = apz - acz;
  const d5 = abx * cpx + aby * cpy + abz * cpz,
    d6 = acx * cpx + acy * cpy + acz * cpz;
  if (d6 >= 0 && d5 <= d6) return setClosest(ax + acx, ay + acy, az + acz, 3);
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) {
    const w = d2 / (d2 - d6);
    return setClosest(ax + w * acx, ay + w * acy, az + w * acz, 6);
  }
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
    const w = (d4 - d3) / (d4 - d3 + (d5 - d6));
    return setClosest(
      ax + abx + w * (acx - abx),
      ay + aby + w * (acy - aby),
      az + abz + w * (acz - abz),
      5,
    );
  }
  const scale = 1 / (va + vb + vc);
  const v = vb * scale,
    w = vc * scale;
  setClosest(ax + abx * v + acx * w, ay + aby * v + acy * w, az + abz * v + acz * w, 0);
}
