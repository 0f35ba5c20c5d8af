import { Worker } from 'node:worker_threads';

/** Starts a helper thread on Node; it does not keep the process alive. */
export function startNodeHelper() {
  const worker = new Worker(new URL('./nodeHelper.js', import.meta.url));
  worker.unref();
  // One that fails is done without: what it does not do, others do, or it is given up.
  worker.on('error', () => undefined);
  return { call: (call) => worker.postMessage(call), end: () => void worker.terminate() };
}
