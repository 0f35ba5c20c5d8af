import * as Comlink from 'comlink';
import type { MeshWorker } from './mesh.worker';

let remote: Comlink.Remote<MeshWorker> | undefined;

/** The worker that reads meshes; started when it is first needed. */
export function meshWorker(): Comlink.Remote<MeshWorker> {
  remote ??= Comlink.wrap<MeshWorker>(new Worker(new URL('./mesh.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}
