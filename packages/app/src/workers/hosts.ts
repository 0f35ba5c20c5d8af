import { ShotSender } from '../jobs/sentShots';
import { WorkerHost } from '../jobs/workerHost';
import type { ChecksWorker } from './checks.worker';
import type { FinishWorker } from './finish.worker';
import type { FramesWorker } from './frames.worker';
import type { MeshWorker } from './mesh.worker';
import type { RunWorker } from './run.worker';
import type { SwatchWorker } from './swatch.worker';
import type { FilesWorker } from './files.worker';

// The workers of the page; each is started when it is first needed.

export const runHost = new WorkerHost<RunWorker>(
  'runs',
  () => new Worker(new URL('./run.worker.ts', import.meta.url), { type: 'module' }),
);
export const framesHost = new WorkerHost<FramesWorker>(
  'kept frames',
  () => new Worker(new URL('./frames.worker.ts', import.meta.url), { type: 'module' }),
);
export const checksHost = new WorkerHost<ChecksWorker>(
  'checks',
  () => new Worker(new URL('./checks.worker.ts', import.meta.url), { type: 'module' }),
);
export const meshHost = new WorkerHost<MeshWorker>(
  'meshes',
  () => new Worker(new URL('./mesh.worker.ts', import.meta.url), { type: 'module' }),
);
export const filesHost = new WorkerHost<FilesWorker>(
  'files',
  () => new Worker(new URL('./files.worker.ts', import.meta.url), { type: 'module' }),
);
export const swatchHost = new WorkerHost<SwatchWorker>(
  'swatch tests',
  () => new Worker(new URL('./swatch.worker.ts', import.meta.url), { type: 'module' }),
);
export const finishHost = new WorkerHost<FinishWorker>(
  'finish lists',
  () => new Worker(new URL('./finish.worker.ts', import.meta.url), { type: 'module' }),
);

/** What the run and the checks have been sent of shots. */
export const runSender = new ShotSender(runHost);
export const checksSender = new ShotSender(checksHost);
