import { vi } from 'vitest';
import { ShotSender } from '../jobs/sentShots';
import { storageProblem } from '../storage/database';
import { copyFrames, keepFrames, readFrame, type TimedFrame } from '../storage/takes';

type Name = 'run' | 'frames' | 'checks' | 'mesh' | 'files' | 'swatch' | 'finish';

/** What stands in for `workers/hosts`: workers in this thread that do what a test tells them. Frames are read from the storage. */
export function nearHosts(workers: Partial<Record<Name, object>>) {
  const frames = {
    read: (take: string, frame: number, fingerprint: string) => readFrame(take, frame, { fingerprint }),
    keep: (take: string, kept: TimedFrame[]) =>
      keepFrames(take, kept, null).then(
        () => null,
        (error: unknown) => storageProblem(error),
      ),
    copy: copyFrames,
  };
  const all = { frames, ...workers } as Partial<Record<Name, object>>;
  const host = (name: Name) => ({
    generation: 0,
    kill: vi.fn(),
    call: async (ask: (api: unknown) => unknown) => ask(all[name] ?? {}),
  });
  const [run, checks] = [host('run'), host('checks')];
  return {
    ...{ runHost: run, checksHost: checks, framesHost: host('frames'), meshHost: host('mesh') },
    ...{ filesHost: host('files'), swatchHost: host('swatch'), finishHost: host('finish') },
    ...{ runSender: new ShotSender(run), checksSender: new ShotSender(checks) },
  };
}
