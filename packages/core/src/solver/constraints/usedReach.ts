import * as Attachment from '@lumbra/kernel/layouts/constraints/attachment';
import type { ClothState } from '../clothState';
import type { KernelMemory } from '../kernelMemory';

/** How far attachments are used. */
export interface UsedReach {
  /** How many times as far as the cloth is long, at most. */
  reach: number;
  /** The largest share of how far each of them reaches. */
  share: number;
}

/** How far the attachments of a cloth are used as its points lie now; nothing where there are none. */
export function usedReach(memory: KernelMemory, cloth: ClothState, points: number): UsedReach {
  const { address, count, scales, groups } = cloth.attachments;
  if (count === 0) return { reach: 0, share: 0 };
  const records = memory.records(address, Attachment.BYTES, count);
  const scaled = memory.floats(scales, groups);
  const places = memory.points(points, cloth.firstPoint, cloth.points);
  const placeOf = (bytes: number) => bytes / Float32Array.BYTES_PER_ELEMENT - cloth.firstPoint * 4;
  let [reach, share] = [0, 0];
  for (let i = 0; i < count; i++) {
    const own = placeOf(records.integer(i, Attachment.POINT));
    const held = placeOf(records.integer(i, Attachment.HELD));
    let square = 0;
    for (let axis = 0; axis < 3; axis++) square += (places[own + axis]! - places[held + axis]!) ** 2;
    square /= records.float(i, Attachment.DISTANCE) ** 2;
    reach = Math.max(reach, square);
    share = Math.max(
      share,
      square / scaled[records.integer(i, Attachment.SCALE) / Float32Array.BYTES_PER_ELEMENT]! ** 2,
    );
  }
  return { reach: Math.sqrt(reach), share: Math.sqrt(share) };
}
