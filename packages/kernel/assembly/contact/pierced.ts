import { beginWalk, leafCount, leafFirst, nextLeaf } from '../boxWalk';
import { localNow } from '../collider';
import { placeOf } from './data';
import { gatherContacts } from './gather';
import { isSqueezed } from './room';
import * as Collider from '../../layouts/contact/collider';
import * as Feeler from '../../layouts/contact/feeler';
import * as Search from '../../layouts/contact/search';
import * as SurfaceMesh from '../../layouts/contact/surfaceMesh';
import * as SurfaceTriangle from '../../layouts/contact/surfaceTriangle';

// Counts where cloth passes through the surface of a collider, which is a mesh or lies a mesh just below: exactly, by edges through triangles both ways, and sharing nothing with
// contact but the list of faces that are near and the tree of boxes.

/**
 * How many faces of the cloth pass through the surface of a collider; the search keeps where the first is. Those of which a corner is squeezed between colliders
 * without room are left out: they cannot but pass. Uses the search, which must gather anew afterwards.
 */
export function countPierced(points: usize, residual: usize, search: usize): i32 {
  const collider = <usize>load<u32>(search, Search.COLLIDER);
  if (load<u32>(collider, Collider.MESH) == 0) return 0;
  gatherContacts(points, residual, search, 0.001, 0);
  const mesh = <usize>load<u32>(collider, Collider.MESH);
  const faces = <usize>load<u32>(search, Search.FACES_NEAR);
  let pierced = 0;
  for (let n = 0, count = load<i32>(search, Search.FACES_NEAR_COUNT); n < count; n++) {
    const face = faces + <usize>n * Feeler.FACE_BYTES;
    const i = <usize>load<u32>(face, Feeler.POINT_0),
      j = <usize>load<u32>(face, Feeler.POINT_1),
      k = <usize>load<u32>(face, Feeler.POINT_2);
    const place = placeOf(points, residual, i);
    const a = localNow(collider, place),
      b = localNow(collider, placeOf(points, residual, j)),
      c = localNow(collider, placeOf(points, residual, k));
    if (!meetsSurface(mesh, a, b, c)) continue;
    if (isSqueezed(search, i) || isSqueezed(search, j) || isSqueezed(search, k)) continue;
    if (pierced == 0) v128.store(search, place, Search.FOUND_AT);
    pierced++;
  }
  return pierced;
}

/** Whether a triangle in the collider's axes passes through any triangle of its mesh. */
function meetsSurface(mesh: usize, a: v128, b: v128, c: v128): bool {
  const nodes = <usize>load<u32>(mesh, SurfaceMesh.NODES),
    triangles = <usize>load<u32>(mesh, SurfaceMesh.TRIANGLES);
  beginWalk(nodes, f32x4.min(f32x4.min(a, b), c), f32x4.max(f32x4.max(a, b), c));
  while (nextLeaf()) {
    for (let n = 0; n < leafCount; n++) {
      const triangle = triangles + (<usize>leafFirst + n) * 124;
      const p = v128.load(triangle, SurfaceTriangle.CORNERS),
        q = v128.load(triangle, SurfaceTriangle.CORNER_1),
        r = v128.load(triangle, SurfaceTriangle.CORNER_2);
      if (passes(a, b, p, q, r) || passes(b, c, p, q, r) || passes(c, a, p, q, r)) return true;
      if (passes(p, q, a, b, c) || passes(q, r, a, b, c) || passes(r, p, a, b, c)) return true;
    }
  }
  return false;
}

// @ts-ignore: decorator
@inline
function x(v: v128): f64 {
  return <f64>f32x4.extract_lane(v, 0);
}
// @ts-ignore: decorator
@inline
function y(v: v128): f64 {
  return <f64>f32x4.extract_lane(v, 1);
}
// @ts-ignore: decorator
@inline
function z(v: v128): f64 {
  return <f64>f32x4.extract_lane(v, 2);
}

/** Six times the signed volume of a tetrahedron. */
function volume(a: v128, b: v128, c: v128, d: v128): f64 {
  const bx = x(b) - x(a),
    by = y(b) - y(a),
    bz = z(b) - z(a);
  const cx = x(c) - x(a),
    cy = y(c) - y(a),
    cz = z(c) - z(a);
  const dx = x(d) - x(a),
    dy = y(d) - y(a),
    dz = z(d) - z(a);
  return bx * (cy * dz - cz * dy) + by * (cz * dx - cx * dz) + bz * (cx * dy - cy * dx);
}

/** Whether the segment from a to b passes through the triangle p q r; touching does not count. */
function passes(a: v128, b: v128, p: v128, q: v128, r: v128): bool {
  const at = volume(p, q, r, a),
    bt = volume(p, q, r, b);
  if (at * bt >= 0) return false;
  const u = volume(a, b, p, q),
    v = volume(a, b, q, r),
    w = volume(a, b, r, p);
  return (u > 0 && v > 0 && w > 0) || (u < 0 && v < 0 && w < 0);
}
