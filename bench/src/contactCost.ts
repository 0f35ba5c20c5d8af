import { compile, Solver, substepsOf, type Model, type Shot } from '@lumbra/core';
import { crumplingDrop, NIGHT_FERRY } from '@lumbra/demo';
import { median, row } from './print';

// What contact of cloth with cloth costs: the same shot with it, in draft, and without, frame by frame, and the split.

const EVERY = 6;

function shotOf(code: string): Shot {
  return NIGHT_FERRY.shots.map((build) => build()).find((shot) => shot.code === code)!;
}

function measure(name: string, shot: Shot, frames: number): void {
  const model = compile(shot, new Map());
  // All three at shot quality, whatever the shot says of draft.
  const substeps = substepsOf(shot, new Map());
  const make = (layers: Model['layers']) => new Solver({ ...model, layers });
  const [exact, draft, off] = [make('exact'), make('draft'), make('off')];
  const clock = () => performance.now();
  exact.layerCounts(clock);
  const ratios: number[] = [];
  const drafts: number[] = [];
  const split = { solve: 0, query: 0, contact: 0, forbid: 0 };
  let worst = 0;
  let settled = 0;
  for (let frame = 1; frame <= frames; frame++) {
    const times = [exact, draft, off].map((solver) => {
      const started = clock();
      solver.advance(1 / shot.frameRate, substeps);
      return clock() - started;
    }) as [number, number, number];
    const counts = exact.layerCounts()!;
    worst = Math.max(worst, frame % EVERY === 0 ? exact.crossings().count : 0);
    ratios.push(times[0] / times[2]);
    drafts.push(times[1] / times[2]);
    split.query += counts.queryTime;
    split.contact += counts.contactTime;
    split.forbid += counts.forbidTime;
    split.solve += times[0] - counts.queryTime - counts.contactTime - counts.forbidTime;
    settled = times[0] / times[2];
  }
  const total = split.solve + split.query + split.contact + split.forbid;
  const share = (part: number) => `${((100 * part) / total).toFixed(0)} %`;
  row(
    name,
    ...[median(ratios).toFixed(2), Math.max(...ratios).toFixed(1), settled.toFixed(2), median(drafts).toFixed(2)],
    ...[share(split.solve), share(split.query), share(split.contact), share(split.forbid), String(worst)],
  );
}

/** Contact as a multiple of the same run's solve without it. */
export function contactCost(): void {
  console.log('\nContact of cloth with cloth, as a multiple of the same frame without it (medians over the frames)');
  row('shot', 'exact', 'worst', 'last frame', 'draft', 'solve', 'query', 'contact', 'forbid', 'crossings');
  measure('NF010 Crate cover', shotOf('NF010'), 120);
  measure('NF050 Rucked runner', shotOf('NF050'), 156);
  measure('Crumpling drop, 10 000 points', crumplingDrop(101), 48);
}
