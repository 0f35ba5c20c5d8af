import type { FlatTriangles } from './flatTriangles';

export interface StretchMeasure {
  /** Largest stretch along warp or weft of any face: 0.01 is 1 % longer than it wants to be. */
  largest: number;
  /** Mean of the absolute stretch along warp and weft over all faces. */
  mean: number;
  /** Middle of the face that is stretched most, x y z in m; null where nothing is stretched. */
  place: [number, number, number] | null;
}

/** Stretch along warp and weft of one face, as shares. Positions are `stride` numbers a point, x y z first. */
function faceStretch(
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
  let warp = 0;
  let weft = 0;
  for (let axis = 0; axis < 3; axis++) {
    const e1 = positions[j + axis]! - positions[i + axis]!;
    const e2 = positions[k + axis]! - positions[i + axis]!;
    const p = flat.inverses[face * 4]! * e1 + flat.inverses[face * 4 + 2]! * e2;
    const q = flat.inverses[face * 4 + 1]! * e1 + flat.inverses[face * 4 + 3]! * e2;
    warp += p * p;
    weft += q * q;
  }
  out[0] = Math.sqrt(warp) - 1;
  out[1] = Math.sqrt(weft) - 1;
}

export function measureStretch(
  positions: ArrayLike<number>,
  stride: number,
  triangles: Uint32Array,
  flat: FlatTriangles,
): StretchMeasure {
  const both = new Float64Array(2);
  let largest = 0;
  let sum = 0;
  let count = 0;
  let worst = -1;
  for (let face = 0; face < flat.areas.length; face++) {
    if (flat.areas[face] === 0) continue;
    faceStretch(positions, stride, triangles, flat, face, both);
    if (Math.max(both[0]!, both[1]!) > largest) worst = face;
    largest = Math.max(largest, both[0]!, both[1]!);
    sum += Math.abs(both[0]!) + Math.abs(both[1]!);
    count += 2;
  }
  const middle = (axis: number) => {
    const corners = [0, 1, 2].map((corner) => positions[triangles[worst * 3 + corner]! * stride + axis]!);
    return (corners[0]! + corners[1]! + corners[2]!) / 3;
  };
  return {
    largest,
    mean: count > 0 ? sum / count : 0,
    place: worst < 0 ? null : [middle(0), middle(1), middle(2)],
  };
}

/** The stretch at each point for showing: of the faces around it, the mean of warp or weft, whichever is farther from 0. */
export function pointStretch(positions: Float32Array, triangles: Uint32Array, flat: FlatTriangles): Float32Array {
  const both = new Float64Array(2);
  const sums = new Float32Array(positions.length / 3);
  const faces = new Uint16Array(positions.length / 3);
  for (let face = 0; face < flat.areas.length; face++) {
    if (flat.areas[face] === 0) continue;
    faceStretch(positions, 3, triangles, flat, face, both);
    const value = Math.abs(both[0]!) > Math.abs(both[1]!) ? both[0]! : both[1]!;
    for (let corner = 0; corner < 3; corner++) {
      sums[triangles[face * 3 + corner]!]! += value;
      faces[triangles[face * 3 + corner]!]!++;
    }
  }
  return sums.map((sum, point) => (faces[point] ? sum / faces[point]! : 0));
}
