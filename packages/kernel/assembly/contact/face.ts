import { dot, squareOf } from '../vectors';
import { placeOf, planeOf, writeContact } from './data';
import { sameNormal } from './edge';
import * as Collider from '../../layouts/contact/collider';
import * as Feeler from '../../layouts/contact/feeler';
import * as Search from '../../layouts/contact/search';

/** A face is felt at a corner of a box that has come through it by up to this, in m. */
const CORNER_DEPTH: f32 = 0.01;

/** The corner of a box, in the world, that is nearest to a place. */
// @ts-ignore: decorator
@inline
function cornerNearest(collider: usize, place: v128): v128 {
  const away = f32x4.sub(place, v128.load(collider, Collider.CENTRE));
  const x = v128.load(collider, Collider.ROTATION),
    y = v128.load(collider, Collider.ROTATION + 12),
    z = v128.load(collider, Collider.ROTATION + 24);
  const hx = load<f32>(collider, Collider.SIZE),
    hy = load<f32>(collider, Collider.SIZE + 4),
    hz = load<f32>(collider, Collider.SIZE + 8);
  return f32x4.add(
    v128.load(collider, Collider.CENTRE),
    f32x4.add(
      f32x4.mul(x, f32x4.splat(dot(x, away) < 0 ? -hx : hx)),
      f32x4.add(
        f32x4.mul(y, f32x4.splat(dot(y, away) < 0 ? -hy : hy)),
        f32x4.mul(z, f32x4.splat(dot(z, away) < 0 ? -hz : hz)),
      ),
    ),
  );
}

/**
 * The same for a face: the place inside it that is nearest to a corner of the box, else where the planes of its three
 * corners meet.
 */
export function nearestOnFace(
  points: usize,
  displacement: usize,
  search: usize,
  face: usize,
  reach: f32,
  to: usize,
): bool {
  const i = <usize>load<u32>(face, Feeler.POINT_0),
    j = <usize>load<u32>(face, Feeler.POINT_1),
    k = <usize>load<u32>(face, Feeler.POINT_2);
  const planeA = v128.load(planeOf(search, i)),
    planeB = v128.load(planeOf(search, j)),
    planeC = v128.load(planeOf(search, k));
  // Where all three see the same side of the box, none of its corners can come between them.
  if (sameNormal(planeA, planeB) && sameNormal(planeB, planeC)) return false;
  const a = placeOf(points, displacement, i);
  const ab = f32x4.sub(placeOf(points, displacement, j), a),
    ac = f32x4.sub(placeOf(points, displacement, k), a);
  const third = f32x4.splat(<f32>(1.0 / 3.0));
  const corner = cornerNearest(
    <usize>load<u32>(search, Search.COLLIDER),
    f32x4.add(a, f32x4.mul(f32x4.add(ab, ac), third)),
  );
  const ap = f32x4.sub(corner, a);
  const bb = dot(ab, ab),
    bc = dot(ab, ac),
    cc = dot(ac, ac),
    pb = dot(ap, ab),
    pc = dot(ap, ac);
  const span = bb * cc - bc * bc;
  if (span > 0) {
    const v = (cc * pb - bc * pc) / span,
      w = (bb * pc - bc * pb) / span;
    if (v > 0.02 && w > 0.02 && v + w < 0.98) {
      const off = f32x4.sub(
        ap,
        f32x4.add(f32x4.mul(ab, f32x4.splat(v)), f32x4.mul(ac, f32x4.splat(w))),
      );
      const within = reach + CORNER_DEPTH;
      if (squareOf(off) < within * within) {
        writeContact(to, i, j, k, 1 - v - w, v, w);
        return true;
      }
    }
  }
  // Distance at a + v ab + w ac by each plane: d + v pV + w pW.
  const aV = dot(planeA, ab),
    aW = dot(planeA, ac),
    dA = dot(planeA, a) + f32x4.extract_lane(planeA, 3);
  const bV = dot(planeB, ab),
    bW = dot(planeB, ac),
    dB = dot(planeB, a) + f32x4.extract_lane(planeB, 3);
  const cV = dot(planeC, ab),
    cW = dot(planeC, ac),
    dC = dot(planeC, a) + f32x4.extract_lane(planeC, 3);
  const m00 = aV - bV,
    m01 = aW - bW,
    m10 = aV - cV,
    m11 = aW - cW;
  const determinant = m00 * m11 - m01 * m10;
  if (Mathf.abs(determinant) < 1e-12) return false;
  const v = ((dB - dA) * m11 - m01 * (dC - dA)) / determinant,
    w = (m00 * (dC - dA) - (dB - dA) * m10) / determinant;
  if (!(v > 0.02 && w > 0.02 && v + w < 0.98) || dA + v * aV + w * aW >= reach) return false;
  writeContact(to, i, j, k, 1 - v - w, v, w);
  return true;
}
