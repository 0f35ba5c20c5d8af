import { type Mesh, type Shot } from '@lumbra/core';
import { checkShot, mendFinding, type CheckContext, type CheckFinding } from '@lumbra/core/checks';
import * as Comlink from 'comlink';

// Looks shots over before they are run, off the page's thread: what starts crossed or inside is measured by the solver.

const worker = {
  check: (shot: Shot, assets: Map<string, Mesh>, besides: Pick<CheckContext, 'bake' | 'bytesFree'>): CheckFinding[] =>
    checkShot(shot, assets, besides),
  mend: (shot: Shot, assets: Map<string, Mesh>, finding: CheckFinding) => mendFinding(shot, assets, finding),
};

export type ChecksWorker = typeof worker;

Comlink.expose(worker);
