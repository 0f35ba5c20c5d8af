// Closest places of a point and a triangle, and of two edges, in double (Ericson 2005, "Real-Time Collision
// Detection", sections 5.1.5 and 5.1.9). The four places are 16 bytes each at the given addresses. Left in these globals:
// the unit normal from the second feature to the first, the signed weights of the four points (first feature
// positive), and the gap: how far the features lie apart MEASURED ALONG the normal. Never a cross product,
// which loses its direction where edges are parallel.
import { larger, smaller } from '../lanes';

export let normalX: f64 = 0;
export let normalY: f64 = 0;
export let normalZ: f64 = 0;
export let weight0: f64 = 0;
export let weight1: f64 = 0;
export let weight2: f64 = 0;
export let weight3: f64 = 0;
export let gap: f64 = 0;

// Of the four places, relative to the first.
let x1: f64 = 0;
let y1: f64 = 0;
let z1: f64 = 0;
let x2: f64 = 0;
let y2: f64 = 0;
let z2: f64 = 0;
let x3: f64 = 0;
let y3: f64 = 0;
let z3: f64 = 0;

// @ts-ignore: decorator
@inline
function readRelative(a0: usize, a1: usize, a2: usize, a3: usize): void {
  const px = <f64>load<f32>(a0, 0),
    py = <f64>load<f32>(a0, 4),
    pz = <f64>load<f32>(a0, 8);
  x1 = <f64>load<f32>(a1, 0) - px;
  y1 = <f64>load<f32>(a1, 4) - py;
  z1 = <f64>load<f32>(a1, 8) - pz;
  x2 = <f64>load<f32>(a2, 0) - px;
  y2 = <f64>load<f32>(a2, 4) - py;
  z2 = <f64>load<f32>(a2, 8) - pz;
  x3 = <f64>load<f32>(a3, 0) - px;
  y3 = <f64>load<f32>(a3, 4) - py;
  z3 = <f64>load<f32>(a3, 8) - pz;
}

/** Sets the normal from the weights; false when the closest places coincide. */
// @ts-ignore: decorator
@inline
function setNormal(): bool {
  const nx = weight1 * x1 + weight2 * x2 + weight3 * x3,
    ny = weight1 * y1 + weight2 * y2 + weight3 * y3,
    nz = weight1 * z1 + weight2 * z2 + weight3 * z3;
  const length = Math.sqrt(nx * nx + ny * ny + nz * nz);
  if (!(length > 1e-12)) return false;
  normalX = nx / length;
  normalY = ny / length;
  normalZ = nz / length;
  return true;
}

// @ts-ignore: decorator
@inline
function along(x: f64, y: f64, z: f64): f64 {
  return normalX * x + normalY * y + normalZ * z;
}

/** Point 0 against the triangle 1 2 3. Returns false where they coincide. */
export function closestPointTriangle(a0: usize, a1: usize, a2: usize, a3: usize): bool {
  readRelative(a0, a1, a2, a3);
  barycentric();
  weight0 = 1;
  if (!setNormal()) return false;
  gap = -larger<f64>(along(x1, y1, z1), larger<f64>(along(x2, y2, z2), along(x3, y3, z3)));
  return true;
}

/** Weights of the triangle's corners at the place closest to the origin, negative. */
function barycentric(): void {
  const abx = x2 - x1,
    aby = y2 - y1,
    abz = z2 - z1;
  const acx = x3 - x1,
    acy = y3 - y1,
    acz = z3 - z1;
  const d1 = -(abx * x1 + aby * y1 + abz * z1),
    d2 = -(acx * x1 + acy * y1 + acz * z1);
  if (d1 <= 0 && d2 <= 0) return setCorners(1, 0, 0);
  const d3 = -(abx * x2 + aby * y2 + abz * z2),
    d4 = -(acx * x2 + acy * y2 + acz * z2);
  if (d3 >= 0 && d4 <= d3) return setCorners(0, 1, 0);
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) {
    const v = d1 / (d1 - d3);
    return setCorners(1 - v, v, 0);
  }
  const d5 = -(abx * x3 + aby * y3 + abz * z3),
    d6 = -(acx * x3 + acy * y3 + acz * z3);
  if (d6 >= 0 && d5 <= d6) return setCorners(0, 0, 1);
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) {
    const w = d2 / (d2 - d6);
    return setCorners(1 - w, 0, w);
  }
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
    const w = (d4 - d3) / (d4 - d3 + (d5 - d6));
    return setCorners(0, 1 - w, w);
  }
  const scale = 1 / (va + vb + vc);
  setCorners(1 - vb * scale - vc * scale, vb * scale, vc * scale);
}

// @ts-ignore: decorator
@inline
function setCorners(a: f64, b: f64, c: f64): void {
  weight1 = -a;
  weight2 = -b;
  weight3 = -c;
}

// @ts-ignore: decorator
@inline
function unit(value: f64): f64 {
  return larger<f64>(0, smaller<f64>(1, value));
}

/** Edge 0 1 against edge 2 3. Returns false where they touch. */
export function closestEdges(a0: usize, a1: usize, a2: usize, a3: usize): bool {
  readRelative(a0, a1, a2, a3);
  const fx = x3 - x2,
    fy = y3 - y2,
    fz = z3 - z2;
  const aa = x1 * x1 + y1 * y1 + z1 * z1,
    ee = fx * fx + fy * fy + fz * fz,
    b = x1 * fx + y1 * fy + z1 * fz,
    c = -(x1 * x2 + y1 * y2 + z1 * z2),
    f = -(fx * x2 + fy * y2 + fz * z2);
  const across = aa * ee - b * b;
  let s: f64 = across > 1e-12 * aa * ee ? unit((b * f - c * ee) / across) : 0.5;
  let t: f64 = ee > 0 ? unit((b * s + f) / ee) : 0;
  s = aa > 0 ? unit((b * t - c) / aa) : 0;
  setEdges(s, t);
  const found = setEdgeGap();
  const length = found ? lengthOfGap() : 0;
  if (found && gap >= 0.999 * length) return true;
  // Nearly parallel edges: the formula above may miss. One end against the other edge is then as close as any.
  let bestS = s,
    bestT = t,
    bestGap: f64 = found ? gap : -1;
  for (let which = 0; which < 4; which++) {
    if (which < 2) {
      s = <f64>which;
      t = ee > 0 ? unit((b * s + f) / ee) : 0;
    } else {
      t = <f64>(which - 2);
      s = aa > 0 ? unit((b * t - c) / aa) : 0;
    }
    setEdges(s, t);
    if (setEdgeGap() && gap > bestGap) {
      bestGap = gap;
      bestS = s;
      bestT = t;
    }
  }
  setEdges(bestS, bestT);
  return setEdgeGap();
}

// @ts-ignore: decorator
@inline
function setEdges(s: f64, t: f64): void {
  weight0 = 1 - s;
  weight1 = s;
  weight2 = t - 1;
  weight3 = -t;
}

// @ts-ignore: decorator
@inline
function setEdgeGap(): bool {
  if (!setNormal()) return false;
  gap = smaller<f64>(0, along(x1, y1, z1)) - larger<f64>(along(x2, y2, z2), along(x3, y3, z3));
  return true;
}

/** Distance of the closest places, which the normal was taken from. */
// @ts-ignore: decorator
@inline
function lengthOfGap(): f64 {
  return (
    weight1 * along(x1, y1, z1) + weight2 * along(x2, y2, z2) + weight3 * along(x3, y3, z3)
  );
}
