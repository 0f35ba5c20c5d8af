import type { FlatTriangles } from '../constraints/flatTriangles';

/** Writes the warp and the weft tangent of a face, 3 numbers each: how a metre of thread lies now. Positions are `stride` numbers a point, x y z first. */
export function faceTangents(
  positions: ArrayLike<number>,
  stride: number,
  triangles: Uint32Array,
  flat: FlatTriangles,
  face: number,
  out: Float64Array,
): void {
  const [i, j, k] = [
    triangles[face * 3]! * stride,
    triangles[face * 3 + 1]! * stride,
    triangles[face * 3 + 2]! * stride,
  ];
  for (let axis = 0; axis < 3; axis++) {
    const e1 = positions[j + axis]! - positions[i + axis]!;
    const e2 = positions[k + axis]! - positions[i + axis]!;
    out[axis] = flat.inverses[face * 4]! * e1 + flat.inverses[face * 4 + 2]! * e2;
    out[3 + axis] = flat.inverses[face * 4 + 1]! * e1 + flat.inverses[face * 4 + 3]! * e2;
  }
}
