/** What a helper thread is called with: to take part in the loops of one memory until its pool is closed. */
export interface HelperCall {
  module: WebAssembly.Module;
  memory: WebAssembly.Memory;
  /** Address of the pool; see assembly/threads/pool.ts. */
  pool: number;
  /** The number of the thread, from 1. */
  self: number;
}

/** On a helper thread: takes part in the loops of a call until it is over. */
export declare function serveCall(call: HelperCall): void;
