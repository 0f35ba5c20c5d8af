import * as Comlink from 'comlink';
import type { ImportWorker } from './import.worker';

let remote: Comlink.Remote<ImportWorker> | undefined;

/** The worker that reads meshes; started when it is first needed. */
export function importWorker(): Comlink.Remote<ImportWorker> {
  remote ??= Comlink.wrap<ImportWorker>(new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}
