import { threadsFor, useThreads, type Helper } from '@lumbra/core';

/** More help less and less, and a page leaves the rest of the machine to others. */
const MOST = 4;

/** On how many threads this page computes runs: as many as the machine has processors, up to four; one where the page may not share memory. */
export function pageThreads(): number {
  return threadsFor(Math.min(MOST, navigator.hardwareConcurrency || 1));
}

/** In the worker that runs: takes the helpers that it may have; `lost` is called when they are given up. */
export function startPageThreads(lost: () => void): void {
  useThreads(pageThreads(), startHelper, { lost });
}

function startHelper(): Helper {
  const worker = new Worker(new URL('./kernel.worker.ts', import.meta.url), { type: 'module' });
  // One that fails is done without: what it does not do, others do, or it is given up. Unheard, its error would end the run.
  worker.addEventListener('error', (event) => event.preventDefault());
  return { call: (call) => worker.postMessage(call), end: () => worker.terminate() };
}
