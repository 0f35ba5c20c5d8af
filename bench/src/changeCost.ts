import { compile, edit, Solver, substepsOf, type Assets, type Shot } from '@lumbra/core';
import { NIGHT_FERRY } from '@lumbra/demo';
import { median, row } from './print';

const ROUNDS = 5;

/** Milliseconds until a shot's first frame is computed, from its document, beyond what the frame itself takes. */
function toFirstFrame(shot: Shot, assets: Assets): number {
  const substeps = substepsOf(shot, assets);
  const started = performance.now();
  const solver = new Solver(compile(shot, assets));
  solver.advance(1 / shot.frameRate, substeps);
  const first = performance.now();
  solver.advance(1 / shot.frameRate, substeps);
  return first - started - (performance.now() - first);
}

/** What a change costs in a live run: a shot that nothing is known of, the same with another weight, and with another bend. */
export function changeCost(): void {
  console.log(`Until the first frame after a change, draft, medians of ${ROUNDS} interleaved rounds`);
  row('shot', 'unknown', 'weight changed', 'bend changed');
  for (const build of NIGHT_FERRY.shots) {
    const times: number[][] = [[], [], []];
    for (let round = 0; round < ROUNDS; round++) {
      // Built anew, so that nothing is known of its meshes.
      const shot = edit(build(), 'Draft', (draft) => (draft.run.quality = 'draft')).shot;
      const changed = (name: 'weight' | 'bendWarp') =>
        edit(shot, 'Change', (draft) => {
          for (const thing of draft.things) if (thing.role === 'cloth') thing.fabric[name] *= 1.01 + round / 100;
        }).shot;
      [shot, changed('weight'), changed('bendWarp')].forEach((one, i) => times[i]!.push(toFirstFrame(one, new Map())));
    }
    const [unknown, weight, bend] = times.map((all) => median(all)) as [number, number, number];
    const ratio = (ms: number) => `${ms.toFixed(0)} ms (${(ms / unknown).toFixed(2)})`;
    row(build().code, `${unknown.toFixed(0)} ms`, ratio(weight), ratio(bend));
  }
}
