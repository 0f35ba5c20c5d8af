import { pointCount, type Mesh } from '../mesh/mesh';
import { wholePieces } from '../select/wholePieces';
import { shrunkPoints } from './selectPoints';

/**
 * A mask, a byte a point, that is full in the middle of each patch of some points and falls evenly to its edge, where points have
 * neighbours outside; 0 elsewhere. Patches that are no deeper than one point are full.
 */
export function fadeMask(mesh: Mesh, points: readonly number[]): Uint8Array<ArrayBuffer> {
  const depths = depthsOf(mesh, points);
  const values = new Uint8Array(pointCount(mesh));
  const left = new Set(points);
  for (const first of points) {
    if (!left.has(first)) continue;
    const patch = wholePieces(mesh, [first], left);
    const deepest = patch.reduce((most, point) => Math.max(most, depths[point]!), 1);
    for (const point of patch) {
      values[point] = Math.round((255 * depths[point]!) / deepest);
      left.delete(point);
    }
  }
  return values;
}

/** In which layer of points each lies, from 1 at the edge; 0 for those that are not among them. */
function depthsOf(mesh: Mesh, points: readonly number[]): Uint16Array {
  const depths = new Uint16Array(pointCount(mesh));
  let inside = [...points];
  for (let depth = 1; inside.length > 0; depth++) {
    for (const point of inside) depths[point] = depth;
    const deeper = shrunkPoints(mesh, inside);
    // What has no edge is as deep everywhere.
    inside = deeper.length < inside.length ? deeper : [];
  }
  return depths;
}
