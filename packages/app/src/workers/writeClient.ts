import * as Comlink from 'comlink';
import type { Writer } from './write.worker';

let remote: Comlink.Remote<Writer> | undefined;

/** The worker that writes files; started when it is first needed. */
export function writeWorker(): Comlink.Remote<Writer> {
  remote ??= Comlink.wrap<Writer>(new Worker(new URL('./write.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}
