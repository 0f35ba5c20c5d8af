import { kernelImports } from './imports.js';

/** On a helper thread: takes part in the loops of a call until it is over. See assembly/threads/pool.ts. */
export function serveCall({ module, memory, pool, self }) {
  const { serve } = new WebAssembly.Instance(module, kernelImports(memory)).exports;
  serve(pool, self);
}
