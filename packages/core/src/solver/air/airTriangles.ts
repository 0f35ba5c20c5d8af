import * as AirTriangle from '@lumbra/kernel/layouts/air/airTriangle';
import * as Point from '@lumbra/kernel/layouts/point';
import type { Fabric } from '../../fabric/fabric';
import { restSizeOf, scaleOf, type FaceScales } from '../../fabric/faceScales';
import type { Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import { orient } from '../../mesh/orient';
import type { FlatTriangles } from '../constraints/flatTriangles';
import type { KernelMemory } from '../kernelMemory';

const CORNERS = [AirTriangle.CORNER_0, AirTriangle.CORNER_1, AirTriangle.CORNER_2];

/**
 * Faces that look the same way across their edges, and outwards where they are closed: pieces that were laid the same way up and sewn together
 * are filled by a pressure. As they were cut, it pushed both the same way, and threw a cushion up at 10 m/s.
 */
const outwards = oncePerMesh((mesh) => orient(mesh).mesh.triangles);

/** What air and pressure act on, in the kernel's memory: see layouts/air/airTriangle.ts there. */
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
  const address = memory.allocate(faces.length * AirTriangle.BYTES);
  const records = memory.records(address, AirTriangle.BYTES, faces.length);
  const corners = outwards(rest);
  faces.forEach((face, i) => {
    CORNERS.forEach((field, corner) => {
      records.setInteger(i, field, (firstPoint + corners[face * 3 + corner]!) * Point.BYTES);
    });
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
  const records = memory.records(address, AirTriangle.BYTES, faces.length);
  faces.forEach((face, i) => {
    const warp = restSizeOf(fabric.restWarp, scales, 'restWarp', face);
    const weft = restSizeOf(fabric.restWeft, scales, 'restWeft', face);
    const weight = fabric.weight * scaleOf(scales, 'weight', face);
    records.setFloat(i, AirTriangle.MASS, (flat.areas[face]! / (warp * weft)) * weight);
  });
}

/** Sets how masks scale drag and pressure. */
export function setAirScales(memory: KernelMemory, { address, faces }: AirTriangles, scales?: FaceScales): void {
  const records = memory.records(address, AirTriangle.BYTES, faces.length);
  faces.forEach((face, i) => {
    records.setFloat(i, AirTriangle.DRAG_ACROSS, scaleOf(scales, 'airAcross', face));
    records.setFloat(i, AirTriangle.DRAG_ALONG, scaleOf(scales, 'airAlong', face));
    records.setFloat(i, AirTriangle.PRESSURE, scaleOf(scales, 'pressure', face));
  });
}
