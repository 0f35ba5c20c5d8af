import { scaleOf, type FaceScales, type ScaledNumber } from '../../fabric/faceScales';
import { pointCount, type Mesh } from '../../mesh/mesh';

/** How much of a number points have: the mean of the faces around them. */
export function pointScales(rest: Mesh, scales: FaceScales | undefined, name: ScaledNumber): Float64Array {
  const sums = new Float64Array(pointCount(rest));
  const faces = new Uint16Array(sums.length);
  rest.triangles.forEach((point, corner) => {
    sums[point]! += scaleOf(scales, name, Math.floor(corner / 3));
    faces[point]!++;
  });
  return sums.map((sum, point) => (faces[point]! > 0 ? sum / faces[point]! : 1));
}
