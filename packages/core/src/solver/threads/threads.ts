import type { HelperCall } from '@lumbra/kernel/serve';

/** A thread beside the one that runs, which waits for calls and answers each with `serveCall` of the kernel. */
export interface Helper {
  call(call: HelperCall): void;
  /** Ends it at once. */
  end(): void;
}

/** More threads wait for each other longer than they save. */
export const MOST_THREADS = 8;

let helpers: Helper[] = [];
let always = false;
let tellLost: () => void = () => undefined;

/**
 * From here on solvers that this thread makes run on so many threads, itself among them. `start` begins another one. What comes out is the same
 * to the bit. Where memory cannot be shared it stays one; returns how many it is. With `always` helpers are used even where it is quicker alone; `lost` is
 * called when they are given up.
 */
export function useThreads(
  count: number,
  start: () => Helper,
  { always: alwaysUsed = false, lost = () => undefined }: { always?: boolean; lost?: () => void } = {},
): number {
  const more = threadsFor(count) - 1;
  always = alwaysUsed;
  tellLost = lost;
  while (helpers.length < more) helpers.push(start());
  for (const helper of helpers.splice(more)) helper.end();
  return more + 1;
}

/** On how many threads runs can be computed where so many are asked for. */
export function threadsFor(count: number): number {
  return canShareMemory() ? Math.min(Math.max(1, Math.floor(count) || 1), MOST_THREADS) : 1;
}

export function currentHelpers(): readonly Helper[] {
  return helpers;
}

/** Whether helpers are used even where it is quicker alone. */
export function areAlwaysUsed(): boolean {
  return always;
}

/** One of the helpers does not answer: all are ended, and runs go on with one thread. */
export function giveHelpersUp(): void {
  for (const helper of helpers) helper.end();
  helpers = [];
  tellLost();
}

/** Whether threads can share memory here: a page has to be isolated for it. */
function canShareMemory(): boolean {
  if (typeof SharedArrayBuffer === 'undefined') return false;
  try {
    new WebAssembly.Memory({ initial: 1, maximum: 1, shared: true });
    return true;
  } catch {
    return false;
  }
}
