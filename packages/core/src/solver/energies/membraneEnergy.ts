import type { Fabric } from '../../fabric/fabric';
import { scaleOf, type FaceScales } from '../../fabric/faceScales';
import type { FlatTriangles } from '../constraints/flatTriangles';
import { faceTangents } from './faceTangents';

// What it takes to stretch, squeeze and shear cloth, whatever the length of substeps. Projections (membraneRecords.ts), what counts as false stretch
// (measure/measures.ts) and tests come from these numbers.

/** What gathered faces have left of their resistance to being pushed together. */
const GATHERED = 0.01;

/** How a face resists, in N/m. */
export interface MembraneStiffness {
  warp: number;
  weft: number;
  shear: number;
  /** The share of warp and weft with which it resists being squeezed. */
  squeeze: number;
}

/** What a face of a fabric resists with; `gathered` where it is at a seam that draws it together (`gatheredFaces`). */
export function membraneStiffness(
  fabric: Fabric,
  scales: FaceScales | undefined,
  face: number,
  gathered = false,
): MembraneStiffness {
  return {
    warp: fabric.stretchWarp * scaleOf(scales, 'stretchWarp', face),
    weft: fabric.stretchWeft * scaleOf(scales, 'stretchWeft', face),
    shear: fabric.shear * scaleOf(scales, 'shear', face),
    squeeze: fabric.squeeze * (scaleOf(scales, 'squeeze', face) * (gathered ? GATHERED : 1)),
  };
}

/**
 * The energy in J that is in the stretch and shear of all faces: of each area / 2 times warp (|a| - 1)² + weft (|b| - 1)² + shear (a b)², of its tangents a and b
 * (the condition functions of Baraff and Witkin 1998, "Large Steps in Cloth Simulation"). Positions are `stride` numbers a point, x y z first.
 */
export function membraneEnergy(
  positions: ArrayLike<number>,
  stride: number,
  triangles: Uint32Array,
  flat: FlatTriangles,
  stiffnessOf: (face: number) => MembraneStiffness,
): number {
  const tangents = new Float64Array(6);
  let sum = 0;
  for (let face = 0; face < flat.areas.length; face++) {
    faceTangents(positions, stride, triangles, flat, face, tangents);
    const [ax, ay, az, bx, by, bz] = tangents as unknown as [number, number, number, number, number, number];
    const { warp, weft, shear, squeeze } = stiffnessOf(face);
    const along = (stiffness: number, length: number) =>
      stiffness * (length < 1 ? squeeze : 1) * (length - 1) * (length - 1);
    const skew = ax * bx + ay * by + az * bz;
    const density =
      along(warp, Math.sqrt(ax * ax + ay * ay + az * az)) +
      along(weft, Math.sqrt(bx * bx + by * by + bz * bz)) +
      shear * skew * skew;
    sum += (flat.areas[face]! / 2) * density;
  }
  return sum;
}
