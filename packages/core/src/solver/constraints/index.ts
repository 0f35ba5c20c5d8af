import type { ClothState } from '../clothState';
import type { KernelMemory } from '../kernelMemory';
import { Attachment } from './attachment';
import { Bend } from './bend';
import type { Constraint, PointAddresses } from './constraint';
import { Membrane } from './membrane';

/** What makes a cloth cloth, in the order in which it is solved. One more constraint is one more line. */
const OF_CLOTH = [Membrane, Bend, Attachment];

/** The constraints of all cloths, cloth by cloth. */
export function clothConstraints(
  memory: KernelMemory,
  cloths: readonly ClothState[],
  at: PointAddresses,
): Constraint[] {
  return cloths.flatMap((cloth) => OF_CLOTH.map((Kind) => new Kind(memory, cloth, at)));
}
