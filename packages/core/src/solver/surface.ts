import { scaleOf, type FaceScales } from '../fabric/faceScales';
import type { Mesh } from '../mesh/mesh';
import { pointCount } from '../mesh/mesh';
import type { KernelMemory } from './kernelMemory';

/**
 * Writes how masks scale friction and thickness, point by point, for contact with colliders; the layout is in
 * kernel/assembly/contact/data.ts. Returns its address, or 0 where nothing is scaled.
 */
export function writeSurface(memory: KernelMemory, rest: Mesh, thickness: number, scales?: FaceScales): number {
  if (!scales?.friction && !scales?.thickness) return 0;
  const count = pointCount(rest);
  const [frictions, thicknesses, faces] = [0, 1, 2].map(() => new Float64Array(count)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  rest.triangles.forEach((point, corner) => {
    const face = Math.floor(corner / 3);
    frictions[point]! += scaleOf(scales, 'friction', face);
    thicknesses[point]! += scaleOf(scales, 'thickness', face);
    faces[point]! += 1;
  });
  const address = memory.allocate(count * 8);
  const values = memory.floats(address, count * 2);
  for (let point = 0; point < count; point++) {
    const around = Math.max(1, faces[point]!);
    // The grip of two surfaces is the root of the product of both.
    values[point * 2] = Math.sqrt(frictions[point]! / around);
    values[point * 2 + 1] = (1 - thicknesses[point]! / around) * (thickness / 2);
  }
  return address;
}
