import type { KernelMemory } from '../kernelMemory';
import type { PairModel } from '../model';

// Who touches whom, and how, as the kernel reads it.

const ENTRY_WORDS = 4;

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

/** Writes how each cloth meets each; the layout is in kernel/assembly/layers/data.ts. Returns its address. */
export function addMeetings(
  memory: KernelMemory,
  cloths: readonly MeetingCloth[],
  pairs: readonly PairModel[] | undefined,
): number {
  const address = memory.allocate(cloths.length * cloths.length * ENTRY_WORDS * 4);
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
  const words = cloths.length * cloths.length * ENTRY_WORDS;
  const [integers, numbers] = [memory.integers(address, words), memory.floats(address, words)];
  cloths.forEach((a, i) =>
    cloths.forEach((b, j) => {
      const at = (i * cloths.length + j) * ENTRY_WORDS;
      const pair = i === j ? undefined : pairOf(pairs, a.id, b.id);
      const other = !(a.given && b.given) && (pair?.touches ?? true);
      integers[at] = (i === j ? a.touchesItself : other) ? 1 : 0;
      numbers.set([pair?.clearance ?? -1, pair?.friction ?? -1], at + 1);
    }),
  );
}
