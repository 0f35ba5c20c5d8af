import type { KernelMemory } from '../kernelMemory';
import type { LayeredCloth } from './layeredCloth';

/**
 * Which points seams draw together, for contact to let them: per point the byte offset of the first of those that it is sewn to, and 1 more where it starts
 * away from that. 0 where nothing is sewn, and then it costs nothing.
 */
export function writeSewn(memory: KernelMemory, cloths: readonly LayeredCloth[], count: number): number {
  if (!cloths.some(({ rest }) => rest.sewn)) return 0;
  const address = memory.allocate((count + 1) * 4);
  const values = memory.integers(address, count + 1);
  for (const { rest, apart, firstPoint, points } of cloths) {
    for (let point = 0; point < points; point++) {
      values[firstPoint + point] = (firstPoint + (rest.sewn?.[point] ?? point)) * 16 + (apart?.[point] ?? 0);
    }
  }
  return address;
}
