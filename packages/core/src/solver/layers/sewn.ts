import * as SewnPoint from '@lumbra/kernel/layouts/layers/sewnPoint';
import * as Point from '@lumbra/kernel/layouts/point';
import type { KernelMemory } from '../kernelMemory';
import type { LayeredCloth } from './layeredCloth';

/**
 * Which points seams draw together, for contact to let them; `SewnPoint` is how. 0 where nothing is sewn, and then it costs nothing.
 */
export function writeSewn(memory: KernelMemory, cloths: readonly LayeredCloth[], count: number): number {
  if (!cloths.some(({ rest }) => rest.sewn)) return 0;
  const address = memory.allocate((count + 1) * SewnPoint.BYTES);
  const values = memory.integers(address, count + 1);
  for (const { rest, apart, firstPoint, points } of cloths) {
    for (let point = 0; point < points; point++) {
      const first = (firstPoint + (rest.sewn?.[point] ?? point)) * Point.BYTES;
      values[firstPoint + point] = first + (apart?.[point] ? SewnPoint.OPEN : 0);
    }
  }
  return address;
}
