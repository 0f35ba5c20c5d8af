import type { FaceScales } from '../../fabric/faceScales';
import { pointCount, type Mesh } from '../../mesh/mesh';
import type { KernelMemory } from '../kernelMemory';
import { pointScales } from '../constraints/pointScales';

/**
 * Writes how masks scale friction and thickness, point by point, for contact with colliders; the layout is in
 * kernel/assembly/contact/data.ts. Returns its address, or 0 where nothing is scaled.
 */
export function writeSurface(memory: KernelMemory, rest: Mesh, thickness: number, scales?: FaceScales): number {
  if (!scales?.friction && !scales?.thickness) return 0;
  const address = memory.allocate(pointCount(rest) * 8);
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
  const values = memory.floats(address, frictions.length * 2);
  frictions.forEach((friction, point) => {
    // The grip of two surfaces is the root of the product of both.
    values[point * 2] = Math.sqrt(friction);
    values[point * 2 + 1] = (1 - thicknesses[point]!) * (thickness / 2);
  });
}
