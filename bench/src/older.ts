import { execFileSync } from 'node:child_process';
import { copyFileSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { median, row } from './print';

const HERE = dirname(fileURLToPath(import.meta.url));
const ROUNDS = 3;

/**
 * What a frame costs against an older commit: the same shots, baked in turns by this checkout and by one of that commit, at the quality
 * that each shot has there. OLDER names the other checkout, installed with `npm ci`; SCENE picks shots by name.
 */
export function older(): void {
  const other = process.env['OLDER'];
  if (!other) {
    console.error('Name an installed checkout of the older commit: OLDER=../older npm run bench -- older');
    return;
  }
  const there = join(resolve(other), 'bench', 'src');
  const here = join(HERE, '..', '..', 'demo', 'src');
  // These shots are younger than some commits that one compares with.
  const script = readFileSync(join(HERE, 'frameTimes.ts'), 'utf8').replaceAll(/@lumbra\/demo\/(\w+)/g, './$1');
  writeFileSync(join(there, 'frameTimes.ts'), script);
  for (const [from, to] of [
    ['trialShots', 'trials'],
    ['stressShots', 'stress'],
    ['keyed', 'keyed'],
  ] as const) {
    copyFileSync(join(here, `${from}.ts`), join(there, `${to}.ts`));
  }
  const measured = { older: [] as Record<string, number>[], now: [] as Record<string, number>[] };
  for (let round = 0; round < ROUNDS; round++) {
    measured.older.push(timesOf(there));
    measured.now.push(timesOf(HERE));
  }
  row('ms a frame', 'older', 'now', 'ratio');
  for (const name of Object.keys(measured.now[0]!)) {
    const [before, after] = [measured.older, measured.now].map((all) => median(all.map((times) => times[name]!)));
    row(name, before!.toFixed(0), after!.toFixed(0), (after! / before!).toFixed(2));
  }
}

/** Times as `frameTimes.ts` in a folder measures them. */
function timesOf(folder: string): Record<string, number> {
  const args = ['--import', 'tsx', join(folder, 'frameTimes.ts'), process.env['SCENE'] ?? ''];
  return JSON.parse(execFileSync(process.execPath, args, { cwd: folder, encoding: 'utf8' })) as Record<string, number>;
}
