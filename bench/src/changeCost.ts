import { compile, edit, Solver, substepsOf, type Assets, type Shot } from '@lumbra/core';
import { NIGHT_FERRY } from '@lumbra/demo';
import { median, row } from './print';

const ROUNDS = 5;

/** Milliseconds that a frame takes with what comes before it, beyond what the next frame takes. */
function beyondFrame(shot: Shot, before: () => Solver): { ms: number; solver: Solver } {
  const seconds = 1 / shot.frameRate;
  const substeps = substepsOf(shot, new Map());
  const started = performance.now();
  const solver = before();
  solver.advance(seconds, substeps);
  const first = performance.now();
  solver.advance(seconds, substeps);
  return { ms: first - started - (performance.now() - first), solver };
}

/** A solver that goes on with a changed shot. */
function taking(solver: Solver, shot: Shot, assets: Assets): Solver {
  if (!solver.take(compile(shot, assets))) throw new Error(`${shot.code}: the change was not taken over.`);
  return solver;
}

/** What a start costs, and a change in a live run: of weight, and of bend, which asks for all hinges anew. */
export function changeCost(): void {
  console.log(`Until the first frame, draft, medians of ${ROUNDS} rounds, and how many times the whole start that is`);
  row('shot', 'first start', 'next start', 'weight live', 'bend live');
  for (const build of NIGHT_FERRY.shots) {
    const times: number[][] = [[], [], [], []];
    const assets = new Map();
    for (let round = 0; round < ROUNDS; round++) {
      // Built anew, so that nothing is known of its meshes.
      const shot = edit(build(), 'Draft', (draft) => (draft.run.quality = 'draft')).shot;
      const changed = (name: 'weight' | 'bendWarp') =>
        edit(shot, 'Change', (draft) => {
          for (const thing of draft.things) if (thing.role === 'cloth') thing.fabric[name] *= 1.01 + round / 100;
        }).shot;
      const first = beyondFrame(shot, () => new Solver(compile(shot, assets)));
      const next = beyondFrame(shot, () => new Solver(compile(shot, assets)));
      const weight = beyondFrame(shot, () => taking(next.solver, changed('weight'), assets));
      const bend = beyondFrame(shot, () => taking(next.solver, changed('bendWarp'), assets));
      [first, next, weight, bend].forEach(({ ms }, i) => times[i]!.push(ms));
    }
    const [first, ...others] = times.map((all) => median(all)) as [number, ...number[]];
    const ratio = (ms: number) => `${ms.toFixed(0)} ms (${(ms / first).toFixed(2)})`;
    row(build().code, `${first.toFixed(0)} ms`, ...others.map(ratio));
  }
}
