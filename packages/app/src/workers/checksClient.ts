import * as Comlink from 'comlink';
import type { ChecksWorker } from './checks.worker';

let remote: Comlink.Remote<ChecksWorker> | undefined;

/** The worker that looks shots over; started when it is first needed. */
export function checksWorker(): Comlink.Remote<ChecksWorker> {
  remote ??= Comlink.wrap<ChecksWorker>(new Worker(new URL('./checks.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}
