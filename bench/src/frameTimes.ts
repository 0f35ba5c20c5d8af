// Bakes the first frames of some shots and prints, as JSON, ms a frame of each: run by `older.ts` in this checkout and in an older one, with
// that one's solver. So it imports nothing but what both have.
import { BakeRun, type Shot } from '@lumbra/core';
import { NIGHT_FERRY } from '@lumbra/demo';
import { crumplingDrop, fastFender, stackedSheets } from '@lumbra/demo/stress';
import { turningLayers, twoLayers } from '@lumbra/demo/trials';

const scenes: Record<string, [shot: () => Shot, frames: number]> = {
  'NF010 Crate cover': [NIGHT_FERRY.shots[0]!, 40],
  'crumpling drop': [() => crumplingDrop(51), 30],
  'three sheets on a bollard': [() => stackedSheets(41), 30],
  'fast fender': [() => fastFender(41), 30],
  'denim over chiffon': [() => twoLayers('silk-chiffon', 'denim'), 30],
  'chiffon over denim': [() => twoLayers('denim', 'silk-chiffon'), 30],
  'three layers on a turning crate': [turningLayers, 36],
};

const [only] = process.argv.slice(2);
const times: Record<string, number> = {};
for (const [name, [build, frames]] of Object.entries(scenes)) {
  if (only && !name.includes(only)) continue;
  const run = new BakeRun(build(), new Map());
  run.next();
  const started = performance.now();
  for (let frame = 1; frame < frames; frame++) run.next();
  times[name] = (performance.now() - started) / (frames - 1);
}
console.log(JSON.stringify(times));
