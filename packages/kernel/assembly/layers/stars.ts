import { larger, smaller } from '../lanes';
import { centre, dataBlock, faces, plan, pointCount, rings, setLayerData, spans, stars, triangleCount, triangles } from './data';
import { pass, passed } from '../threads/pool';
import { endOf, firstOf, inRange } from '../threads/ranges';
import { cross, dot, squareOf } from '../vectors';
import * as Point from '../../layouts/point';
import * as Star from '../../layouts/layers/star';
import * as Triangle from '../../layouts/layers/layerTriangle';

// Which neighbours cannot meet. Most triangles whose boxes overlap have a corner in common, and nearly all of these lie spread out around
// it, so that nothing of them can come together within the horizon. Instead of asking that feature by feature, it is asked once of each star:
// the triangles around a point. Pairs that are left out for it are pairs that would not have been listed.
//
// Seen along some direction, let all triangles of a star face the same way and their angles at its point add up to one turn, or at a border
// to less than three quarters of one. Then they lie side by side in the picture, and features of two of them that have no point in common are
// no nearer than the least height of any triangle in the picture: from one to the other a way has to cross a whole triangle, or pass around
// the point. In space they are no nearer than in the picture. The direction is that of the sum of the normals.

/** Points and triangles that a thread takes at a time. */
const CHUNK: i32 = 256;
/** More than rounding may take from a height. */
const SURE: f32 = 0.99;
/** Angles are told apart in steps of 67.5 degrees: 1 for less than one, 2 for less than two, else 3. Ten are less than two turns, which angles around a point are not then: they add up to whole ones. */
const MOST_INSIDE: i32 = 10;
/** Four are three quarters of a turn. */
const MOST_AT_BORDER: i32 = 4;
/** Of 67.5 degrees. */
const TANGENT: f32 = 2.4142135;

/** Measures all stars for a query that looks `horizon` substeps ahead: places, radii and plan must be made. */
export function measureStars(horizon: f32): void {
  pass<f32>(0, horizon);
  pass<usize>(1, dataBlock);
  inRange(measureTriangles.index, 0, triangleCount, CHUNK);
  inRange(measurePoints.index, 0, pointCount, CHUNK);
}

/** Of each triangle its normal, as long as its least height, and how long its longest side is. */
function measureTriangles(chunk: i32): void {
  setLayerData(passed<usize>(1));
  for (let face = firstOf(chunk), end = endOf(chunk); face < end; face++) {
    const triangle = triangles + <usize>face * Triangle.BYTES;
    const a = v128.load(centre + <usize>load<u32>(triangle, Triangle.CORNER_0)),
      b = v128.load(centre + <usize>load<u32>(triangle, Triangle.CORNER_1)),
      c = v128.load(centre + <usize>load<u32>(triangle, Triangle.CORNER_2));
    const ab = f32x4.sub(b, a),
      ac = f32x4.sub(c, a);
    const longest = larger<f32>(larger<f32>(squareOf(ab), squareOf(ac)), squareOf(f32x4.sub(c, b)));
    const length = Mathf.sqrt(longest);
    const normal = f32x4.mul(cross(ab, ac), f32x4.splat(length > 0 ? 1 / length : 0));
    v128.store(spans + (<usize>face << 4), f32x4.replace_lane(normal, 3, length));
  }
}

function measurePoints(chunk: i32): void {
  setLayerData(passed<usize>(1));
  const horizon = passed<f32>(0);
  for (let point = firstOf(chunk), end = endOf(chunk); point < end; point++) {
    const star = stars + <usize>point * Star.BYTES;
    const height = leastHeight(point);
    if (height <= 0) {
      store<f32>(star, -1, Star.STILL);
      store<f32>(star, -1, Star.ROOM);
      continue;
    }
    const own = v128.load(plan + (<usize>point << 4));
    const entries = rings + ((<usize>pointCount + 1) << 2);
    let fastest: f32 = 0,
      trust: f32 = 0;
    for (let n = load<u32>(rings + (<usize>point << 2)), last = load<u32>(rings + (<usize>point << 2), 4); n < last; n++) {
      const at = <usize>load<u32>(entries + (<usize>n << 2));
      fastest = larger<f32>(fastest, squareOf(f32x4.sub(v128.load(plan + at), own)));
      trust = larger<f32>(trust, load<f32>(centre + at, Point.TRUST));
    }
    const still = SURE * height - 2 * horizon * Mathf.sqrt(fastest);
    store<f32>(star, still, Star.STILL);
    store<f32>(star, still - 2 * trust, Star.ROOM);
  }
}

/** The least height of the triangles around a point, seen along their normal; 0 where they do not lie side by side. */
// @ts-ignore: decorator
@inline
function leastHeight(point: i32): f32 {
  const from = load<u32>(faces + (<usize>point << 2)),
    to = load<u32>(faces + (<usize>point << 2), 4);
  const kind = load<u32>(stars + <usize>point * Star.BYTES, Star.KIND);
  if (kind == Star.KIND_OTHER) return 0;
  const entries = faces + ((<usize>pointCount + 1) << 2);
  let sum = f32x4.splat(0);
  for (let n = from; n < to; n++) {
    sum = f32x4.add(sum, v128.load(spans + (<usize>load<u32>(entries + (<usize>n << 2)) << 4)));
  }
  const length = Mathf.sqrt(squareOf(sum));
  if (!(length > 0)) return 0;
  const normal = f32x4.mul(sum, f32x4.splat(1 / length));
  let least: f32 = f32.MAX_VALUE;
  let steps = 0;
  for (let n = from; n < to; n++) {
    const face = <usize>load<u32>(entries + (<usize>n << 2));
    const span = v128.load(spans + (face << 4));
    const height = dot(span, normal);
    least = smaller<f32>(least, height);
    steps += angleOf(face, <usize>point << 4, normal, height * f32x4.extract_lane(span, 3));
  }
  return steps <= (kind == Star.KIND_INSIDE ? MOST_INSIDE : MOST_AT_BORDER) ? least : 0;
}

/** The angle of a triangle at one of its points, seen along a direction, in steps; `area` is twice what is seen of it. */
// @ts-ignore: decorator
@inline
function angleOf(face: usize, point: usize, normal: v128, area: f32): i32 {
  const triangle = triangles + face * Triangle.BYTES;
  const a = <usize>load<u32>(triangle, Triangle.CORNER_0),
    b = <usize>load<u32>(triangle, Triangle.CORNER_1),
    c = <usize>load<u32>(triangle, Triangle.CORNER_2);
  const at = v128.load(centre + point);
  const first = f32x4.sub(v128.load(centre + (a == point ? b : a)), at),
    second = f32x4.sub(v128.load(centre + (c == point ? b : c)), at);
  // The product of the two sides and the cosine; the area is the same with the sine.
  const along = dot(first, second) - dot(first, normal) * dot(second, normal);
  return area < TANGENT * along ? 1 : -along < area ? 2 : 3;
}

/** Whether two triangles, of one cloth, lie in a star whose features come no nearer to each other than `margin` in m within the horizon. */
// @ts-ignore: decorator
@inline
export function lieSpread(s: usize, t: usize, margin: f32): bool {
  const corners = v128.load(t, Triangle.CORNER_0);
  for (let n: usize = 0; n < 12; n += 4) {
    const point = load<u32>(s + n, Triangle.CORNER_0);
    if ((i32x4.bitmask(i32x4.eq(corners, i32x4.splat(point))) & 7) == 0) continue;
    if (load<f32>(stars + ((<usize>point >> 4) * Star.BYTES), Star.ROOM) >= margin) return true;
  }
  return false;
}

/** A point's ball was enlarged: the stars that it belongs to have less room. */
export function narrowStars(at: usize): void {
  const trust = load<f32>(centre + at, Point.TRUST);
  const entries = rings + ((<usize>pointCount + 1) << 2);
  const ring = rings + ((at >> 4) << 2);
  for (let n = load<u32>(ring), end = load<u32>(ring, 4); n < end; n++) {
    const star = stars + (<usize>load<u32>(entries + (<usize>n << 2)) >> 4) * Star.BYTES;
    store<f32>(star, smaller<f32>(load<f32>(star, Star.ROOM), load<f32>(star, Star.STILL) - 2 * trust), Star.ROOM);
  }
}
