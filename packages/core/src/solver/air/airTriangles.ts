import type { Fabric } from '../../fabric/fabric';
import { restSizeOf, scaleOf, type FaceScales } from '../../fabric/faceScales';
import type { Mesh } from '../../mesh/mesh';
import type { FlatTriangles } from '../constraints/flatTriangles';
import type { KernelMemory } from '../kernelMemory';

const TRIANGLE_WORDS = 8;

/** What air and pressure act on, in the kernel's memory; the layout is in kernel/assembly/air.ts. */
export interface AirTriangles {
  address: number;
  count: number;
  /** The face of each. */
  faces: Uint32Array;
}

/** Writes the faces of a cloth that have an area. */
export function buildAirTriangles(
  memory: KernelMemory,
  rest: Mesh,
  flat: FlatTriangles,
  fabric: Fabric,
  firstPoint: number,
  scales?: FaceScales,
): AirTriangles {
  const faces = Uint32Array.from([...flat.areas.keys()].filter((face) => flat.areas[face]! > 0));
  const address = memory.allocate(faces.length * TRIANGLE_WORDS * 4);
  const offsets = memory.integers(address, faces.length * TRIANGLE_WORDS);
  faces.forEach((face, i) => {
    for (let corner = 0; corner < 3; corner++) {
      offsets[i * TRIANGLE_WORDS + corner] = (firstPoint + rest.triangles[face * 3 + corner]!) * 16;
    }
  });
  const triangles = { address, count: faces.length, faces };
  setAirMasses(memory, triangles, flat, fabric, scales);
  setAirScales(memory, triangles, scales);
  return triangles;
}

/** Sets what each face weighs, in kg. */
export function setAirMasses(
  memory: KernelMemory,
  { address, faces }: AirTriangles,
  flat: FlatTriangles,
  fabric: Fabric,
  scales?: FaceScales,
): void {
  const values = memory.floats(address, faces.length * TRIANGLE_WORDS);
  faces.forEach((face, i) => {
    const warp = restSizeOf(fabric.restWarp, scales, 'restWarp', face);
    const weft = restSizeOf(fabric.restWeft, scales, 'restWeft', face);
    const weight = fabric.weight * scaleOf(scales, 'weight', face);
    values[i * TRIANGLE_WORDS + 3] = (flat.areas[face]! / (warp * weft)) * weight;
  });
}

/** Sets how masks scale drag and pressure. */
export function setAirScales(memory: KernelMemory, { address, faces }: AirTriangles, scales?: FaceScales): void {
  const values = memory.floats(address, faces.length * TRIANGLE_WORDS);
  faces.forEach((face, i) => {
    values[i * TRIANGLE_WORDS + 4] = scaleOf(scales, 'airAcross', face);
    values[i * TRIANGLE_WORDS + 5] = scaleOf(scales, 'airAlong', face);
    values[i * TRIANGLE_WORDS + 6] = scaleOf(scales, 'pressure', face);
  });
}
