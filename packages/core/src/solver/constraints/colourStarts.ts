import type { KernelMemory } from '../kernelMemory';

/** Where each colour of a list begins, in the kernel's memory: u32 each, with the end of the list appended. */
export interface ColourStarts {
  address: number;
  count: number;
}

/** Writes where colours begin, as `colour` gives it. */
export function writeStarts(memory: KernelMemory, starts: readonly number[]): ColourStarts {
  const address = memory.allocate(starts.length * 4);
  memory.integers(address, starts.length).set(starts);
  return { address, count: starts.length - 1 };
}
