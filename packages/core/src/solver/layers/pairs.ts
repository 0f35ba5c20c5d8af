import * as Meeting from '@lumbra/kernel/layouts/layers/meeting';
import type { KernelMemory } from '../kernelMemory';
import type { PairModel } from '../model';

// Who touches whom, and how, as the kernel reads it.

/** What is said of two things, in whichever order. */
export function pairOf(pairs: readonly PairModel[] | undefined, a: string, b: string): PairModel | undefined {
  return pairs?.find(({ between: [x, y] }) => (x === a && y === b) || (x === b && y === a));
}

/** A cloth among those that may meet: its id, and whether it touches itself. */
export interface MeetingCloth {
  id: string;
  touchesItself: boolean;
  /** Its motion is given. Two such cloths do not meet: neither gives way. */
  given?: boolean;
}

/** Writes how each cloth meets each. Returns its address. */
export function addMeetings(
  memory: KernelMemory,
  cloths: readonly MeetingCloth[],
  pairs: readonly PairModel[] | undefined,
): number {
  const address = memory.allocate(cloths.length * cloths.length * Meeting.BYTES);
  setMeetings(memory, address, cloths, pairs);
  return address;
}

/** Writes the same anew. */
export function setMeetings(
  memory: KernelMemory,
  address: number,
  cloths: readonly MeetingCloth[],
  pairs: readonly PairModel[] | undefined,
): void {
  const records = memory.records(address, Meeting.BYTES, cloths.length * cloths.length);
  cloths.forEach((a, i) =>
    cloths.forEach((b, j) => {
      const record = i * cloths.length + j;
      const pair = i === j ? undefined : pairOf(pairs, a.id, b.id);
      const other = !(a.given && b.given) && (pair?.touches ?? true);
      records.setInteger(record, Meeting.TOUCHES, (i === j ? a.touchesItself : other) ? 1 : 0);
      records.setFloat(record, Meeting.DISTANCE, pair?.clearance ?? -1);
      records.setFloat(record, Meeting.FRICTION, pair?.friction ?? -1);
    }),
  );
}
