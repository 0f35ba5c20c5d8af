import * as Comlink from 'comlink';
import type { SwatchWorker } from './swatch.worker';

let remote: Comlink.Remote<SwatchWorker> | undefined;

/** The worker that tests swatches; started when it is first needed. */
export function swatchWorker(): Comlink.Remote<SwatchWorker> {
  remote ??= Comlink.wrap<SwatchWorker>(new Worker(new URL('./swatch.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}
