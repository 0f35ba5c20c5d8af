// Bakes the first frames of some shots and prints, as JSON, ms a frame of each: run by `older.ts` in this checkout and in an older one, with
// that one's solver. So it imports nothing but what both have.
import { BakeRun } from '@lumbra/core';
import { comparedScenes } from './comparedScenes';

// A part of the names of those that are wanted, and substeps by hand of some, as JSON by their names.
const [only, byHand = '{}'] = process.argv.slice(2);
const wanted = JSON.parse(byHand) as Record<string, number>;
const measured: Record<string, { milliseconds: number; substeps: number }> = {};
for (const [name, build, frames] of comparedScenes(only)) {
  const shot = build();
  const substeps = wanted[name] ?? shot.run.substeps;
  const run = new BakeRun({ ...shot, run: { ...shot.run, substeps } }, new Map());
  run.next();
  let most = 0;
  const started = performance.now();
  for (let frame = 1; frame < frames; frame++) most = Math.max(most, run.next().stats.substeps ?? 0);
  measured[name] = { milliseconds: (performance.now() - started) / (frames - 1), substeps: most };
}
console.log(JSON.stringify(measured));
