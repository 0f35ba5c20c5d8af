import type { FlatTriangles } from '../constraints/flatTriangles';
import { faceTangents } from '../energies/faceTangents';

/**
 * How stiff the fabric of a face is in itself: its stiffness in N/m against what substeps of h seconds can hold, rho s^2 / h^2.
 * See `falseShare`.
 */
export interface FaceStiffness {
  /** N/m, the larger of warp and weft. */
  stretch: number;
  /** kg/m^2 */
  weight: number;
  /** s */
  h: number;
}

/**
 * The share of a face's stretch that is false. A sweep a substep acts like a stiffness of rho s^2 / h^2 in a row with that of the
 * fabric (docs/solver.md, “Substeps by rule”), so under whatever tension the one gives k h^2 / (rho s^2) of what the other does.
 */
export function falseShare({ stretch, weight, h }: FaceStiffness, area: number): number {
  const ratio = (stretch * h * h) / (weight * 2 * area);
  return ratio / (1 + ratio);
}

export interface StretchMeasure {
  /** Largest stretch along warp or weft of any face: 0.01 is 1 % longer than it wants to be. */
  largest: number;
  /** The largest stretch beyond what the fabric gives, and the middle of that face. */
  largestFalse: number;
  falsePlace: [number, number, number] | null;
  /** The same without faces that held points, or colliders without room between them, stretch: nothing that is computed can change that. */
  largestFree: number;
  /** Mean of the absolute stretch along warp and weft over all faces. */
  mean: number;
  /** Middle of the face that is stretched most, x y z in m; null where nothing is stretched. */
  place: [number, number, number] | null;
}

/** Stretch along warp and weft of a face with such tangents, as shares. */
function stretches(tangents: Float64Array, out: Float64Array): void {
  let [warp, weft] = [0, 0];
  for (let axis = 0; axis < 3; axis++) {
    warp += tangents[axis]! * tangents[axis]!;
    weft += tangents[3 + axis]! * tangents[3 + axis]!;
  }
  out[0] = Math.sqrt(warp) - 1;
  out[1] = Math.sqrt(weft) - 1;
}

/** Held points that are farther apart than at rest by more than this share stretch what is between them. */
const HELD_APART = 0.005;

/** By how much the edges of a face whose ends are both held are stretched at most, as a share; 0 where there are none. */
function stretchBetweenHeld(
  positions: ArrayLike<number>,
  stride: number,
  triangles: Uint32Array,
  flat: FlatTriangles,
  face: number,
  isHeld: (point: number) => boolean,
): number {
  const corners = [0, 1, 2].map((i) => triangles[face * 3 + i]!);
  if (corners.filter(isHeld).length < 2) return 0;
  const [a, b, c, d] = [0, 1, 2, 3].map((i) => flat.inverses[face * 4 + i]!) as [number, number, number, number];
  const size = 1 / (a * d - b * c);
  const places = [
    [0, 0],
    [d * size, -c * size],
    [-b * size, a * size],
  ] as const;
  let most = 0;
  for (const [i, j] of [
    [0, 1],
    [1, 2],
    [2, 0],
  ] as const) {
    const [from, to] = [corners[i]!, corners[j]!];
    if (!isHeld(from) || !isHeld(to)) continue;
    const rest = Math.sqrt((places[j]![0] - places[i]![0]) ** 2 + (places[j]![1] - places[i]![1]) ** 2);
    let square = 0;
    for (let axis = 0; axis < 3; axis++)
      square += (positions[to * stride + axis]! - positions[from * stride + axis]!) ** 2;
    most = Math.max(most, Math.sqrt(square) / rest - 1);
  }
  return most;
}

/** What is known of faces and points besides where they are. */
interface HowFacesAre {
  stiffnessOf?: (face: number) => FaceStiffness;
  isHeld?: (point: number) => boolean;
  /** Whether it is between colliders that leave it no room. */
  isSqueezed?: (point: number) => boolean;
}

/** Measures the stretch of all faces; without their stiffness all of it counts as false. */
export function measureStretch(
  positions: ArrayLike<number>,
  stride: number,
  triangles: Uint32Array,
  flat: FlatTriangles,
  { stiffnessOf, isHeld, isSqueezed }: HowFacesAre = {},
): StretchMeasure {
  const [tangents, both] = [new Float64Array(6), new Float64Array(2)];
  let largest = 0;
  let sum = 0;
  let count = 0;
  let worst = -1;
  let largestFalse = 0;
  let worstFalse = -1;
  let largestFree = 0;
  for (let face = 0; face < flat.areas.length; face++) {
    if (flat.areas[face] === 0) continue;
    faceTangents(positions, stride, triangles, flat, face, tangents);
    stretches(tangents, both);
    const stretch = Math.max(both[0]!, both[1]!);
    if (stretch > largest) [largest, worst] = [stretch, face];
    if (stretch > largestFree) {
      const beyond = stiffnessOf ? stretch * falseShare(stiffnessOf(face), flat.areas[face]!) : stretch;
      if (beyond > largestFalse) [largestFalse, worstFalse] = [beyond, face];
      if (beyond > largestFree) {
        const held = isHeld ? stretchBetweenHeld(positions, stride, triangles, flat, face, isHeld) : 0;
        const squeezed = isSqueezed !== undefined && [0, 1, 2].some((i) => isSqueezed(triangles[face * 3 + i]!));
        if (held < HELD_APART && !squeezed) largestFree = beyond;
      }
    }
    sum += Math.abs(both[0]!) + Math.abs(both[1]!);
    count += 2;
  }
  const middle = (of: number): [number, number, number] | null => {
    if (of < 0) return null;
    const along = (axis: number) =>
      [0, 1, 2].reduce((total, corner) => total + positions[triangles[of * 3 + corner]! * stride + axis]!, 0) / 3;
    return [along(0), along(1), along(2)];
  };
  return {
    ...{ largest, place: middle(worst), largestFalse, falsePlace: middle(worstFalse), largestFree },
    mean: count > 0 ? sum / count : 0,
  };
}

/** The stretch at each point for showing: of the faces around it, the mean of warp or weft, whichever is farther from 0. */
export function pointStretch(positions: Float32Array, triangles: Uint32Array, flat: FlatTriangles): Float32Array {
  const [tangents, both] = [new Float64Array(6), new Float64Array(2)];
  const sums = new Float32Array(positions.length / 3);
  const faces = new Uint16Array(positions.length / 3);
  for (let face = 0; face < flat.areas.length; face++) {
    if (flat.areas[face] === 0) continue;
    faceTangents(positions, 3, triangles, flat, face, tangents);
    stretches(tangents, both);
    const value = Math.abs(both[0]!) > Math.abs(both[1]!) ? both[0]! : both[1]!;
    for (let corner = 0; corner < 3; corner++) {
      sums[triangles[face * 3 + corner]!]! += value;
      faces[triangles[face * 3 + corner]!]!++;
    }
  }
  return sums.map((sum, point) => (faces[point] ? sum / faces[point]! : 0));
}
