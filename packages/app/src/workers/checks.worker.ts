import { checkShot, mendFinding, type CheckContext, type CheckFinding } from '@lumbra/core/checks';
import { airPressure, type PressedCloth } from '@lumbra/core';
import * as Comlink from 'comlink';
import { ReceivedShots, type SentShot } from '../jobs/sentShots';

// Looks shots over before they are run, off the page's thread: what starts crossed or inside is measured by the solver, and air as a run has it.

const received = new ReceivedShots();

const worker = {
  check(given: SentShot, besides: Pick<CheckContext, 'bake' | 'bytesFree'>): CheckFinding[] {
    const { shot, assets } = received.receive(given);
    return checkShot(shot, assets, besides);
  },
  pressure(given: SentShot, frame: number, cloths: readonly PressedCloth[]): Map<string, Float32Array> {
    const { shot, assets } = received.receive(given);
    return airPressure(shot, assets, frame, cloths);
  },
  mend(given: SentShot, finding: CheckFinding): ReturnType<typeof mendFinding> {
    const { shot, assets } = received.receive(given);
    return mendFinding(shot, assets, finding);
  },
};

export type ChecksWorker = typeof worker;

Comlink.expose(worker);
