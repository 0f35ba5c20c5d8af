import * as SurfacePoint from '@lumbra/kernel/layouts/contact/surfacePoint';
import type { FaceScales } from '../../fabric/faceScales';
import { pointCount, type Mesh } from '../../mesh/mesh';
import type { KernelMemory } from '../kernelMemory';
import { pointScales } from '../constraints/pointScales';

/**
 * Writes how masks scale friction and thickness, point by point, for contact with colliders. Returns its address, or 0 where nothing is scaled.
 */
export function writeSurface(memory: KernelMemory, rest: Mesh, thickness: number, scales?: FaceScales): number {
  if (!scales?.friction && !scales?.thickness) return 0;
  const address = memory.allocate(pointCount(rest) * SurfacePoint.BYTES);
  setSurface(memory, address, rest, thickness, scales);
  return address;
}

/** Writes the same anew, where the thickness in m has changed. */
export function setSurface(
  memory: KernelMemory,
  address: number,
  rest: Mesh,
  thickness: number,
  scales?: FaceScales,
): void {
  const frictions = pointScales(rest, scales, 'friction');
  const thicknesses = pointScales(rest, scales, 'thickness');
  const records = memory.records(address, SurfacePoint.BYTES, frictions.length);
  frictions.forEach((friction, point) => {
    // The grip of two surfaces is the root of the product of both.
    records.setFloat(point, SurfacePoint.GRIP, Math.sqrt(friction));
    records.setFloat(point, SurfacePoint.NEARER, (1 - thicknesses[point]!) * (thickness / 2));
  });
}
