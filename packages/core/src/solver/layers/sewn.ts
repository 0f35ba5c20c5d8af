import type { KernelMemory } from '../kernelMemory';
import type { LayeredCloth } from './layeredCloth';

/** Points that start nearer than this to what they are sewn to, in m, are one from the start. */
export const CLOSED = 1e-4;

/**
 * Which points seams draw together, for contact to let them: per point the byte offset of the first of those that it is sewn to, and 1 more where it starts
 * away from that. 0 where nothing is sewn, and then it costs nothing.
 */
export function writeSewn(memory: KernelMemory, cloths: readonly LayeredCloth[], count: number): number {
  if (!cloths.some(({ rest }) => rest.sewn)) return 0;
  const address = memory.allocate((count + 1) * 4);
  const values = memory.integers(address, count + 1);
  for (const { rest, starts, firstPoint, points } of cloths) {
    const gaps = rest.sewn && seamGaps(rest.sewn, starts);
    for (let point = 0; point < points; point++) {
      const open = gaps !== undefined && gaps[point]! > CLOSED;
      values[firstPoint + point] = (firstPoint + (rest.sewn?.[point] ?? point)) * 16 + (open ? 1 : 0);
    }
  }
  return address;
}

/** Per point how far in m it is from the first of those that it is sewn to. */
export function seamGaps(sewn: Uint32Array, positions: Float32Array): Float64Array {
  const gaps = new Float64Array(sewn.length);
  sewn.forEach((first, point) => {
    const [x, y, z] = [0, 1, 2].map((axis) => positions[point * 3 + axis]! - positions[first * 3 + axis]!) as [
      ...[number, number, number],
    ];
    gaps[point] = Math.sqrt(x * x + y * y + z * z);
  });
  return gaps;
}
