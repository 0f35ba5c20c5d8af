import { Worker } from 'node:worker_threads';

/** Starts a helper thread on Node; it does not keep the process alive. */
export function startNodeHelper() {
  const worker = new Worker(new URL('./nodeHelper.js', import.meta.url));
  worker.unref();
  return { call: (call) => worker.postMessage(call), end: () => void worker.terminate() };
}
