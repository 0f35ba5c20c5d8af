import { checkShot, mendFinding, type CheckContext, type CheckFinding } from '@lumbra/core/checks';
import * as Comlink from 'comlink';
import { ReceivedShots, type SentShot } from '../jobs/sentShots';

// Looks shots over before they are run, off the page's thread: what starts crossed or inside is measured by the solver.

const received = new ReceivedShots();

const worker = {
  check(given: SentShot, besides: Pick<CheckContext, 'bake' | 'bytesFree'>): CheckFinding[] {
    const { shot, assets } = received.receive(given);
    return checkShot(shot, assets, besides);
  },
  mend(given: SentShot, finding: CheckFinding): ReturnType<typeof mendFinding> {
    const { shot, assets } = received.receive(given);
    return mendFinding(shot, assets, finding);
  },
};

export type ChecksWorker = typeof worker;

Comlink.expose(worker);
