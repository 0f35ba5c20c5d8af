// A worker that computes a frame hears no messages. Where memory can be shared it looks at a flag after every substep; elsewhere it
// hears of a stop between frames, and whoever waits for longer ends the worker.

/** A flag that the page sets and a worker reads; null where memory cannot be shared. */
export type StopFlag = Int32Array<SharedArrayBuffer> | null;

export function makeStopFlag(): StopFlag {
  return typeof SharedArrayBuffer === 'undefined' ? null : new Int32Array(new SharedArrayBuffer(4));
}

export function raise(flag: StopFlag): void {
  if (flag) Atomics.store(flag, 0, 1);
}

export function isRaised(flag: StopFlag): boolean {
  return flag !== null && Atomics.load(flag, 0) === 1;
}
