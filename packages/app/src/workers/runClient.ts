import * as Comlink from 'comlink';
import type { RunWorker } from './run.worker';

let remote: Comlink.Remote<RunWorker> | undefined;

/** The worker that runs shots; started when it is first needed. */
export function runWorker(): Comlink.Remote<RunWorker> {
  remote ??= Comlink.wrap<RunWorker>(new Worker(new URL('./run.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}
