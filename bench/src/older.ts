import { execFileSync } from 'node:child_process';
import { copyFileSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { median, row } from './print';

const HERE = dirname(fileURLToPath(import.meta.url));
const ROUNDS = Number(process.env['ROUNDS'] ?? 3);

/**
 * What a frame costs against an older commit: the same shots, baked in turns by this checkout and by one of that commit, at the quality
 * that each shot has there, and once more with substeps by hand that keep what this one promises: as many as its densest frame takes.
 * OLDER names the other checkout, installed with `npm ci`; SCENE picks shots by name, ROUNDS says how many times (3).
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
    ['trialShots', 'trialShots'],
    ['stressShots', 'stress'],
    ['keyed', 'keyed'],
  ] as const) {
    copyFileSync(join(here, `${from}.ts`), join(there, `${to}.ts`));
  }
  const before: Times[] = [];
  const promised: Times[] = [];
  const now: Times[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    now.push(timesOf(HERE));
    before.push(timesOf(there));
    const most = Object.entries(now[0]!).map(([name, { substeps }]) => [name, substeps]);
    promised.push(timesOf(there, Object.fromEntries(most) as Record<string, number>));
  }
  row('ms a frame', 'older', 'older, with', 'now', 'to older', 'to older with');
  for (const [name, { substeps }] of Object.entries(now[0]!)) {
    const [old, kept, ours] = [before, promised, now].map((all) =>
      median(all.map((times) => times[name]!.milliseconds)),
    );
    const byHand = `${kept!.toFixed(0)} (${substeps})`;
    row(name, old!.toFixed(0), byHand, ours!.toFixed(0), (ours! / old!).toFixed(2), (ours! / kept!).toFixed(2));
  }
}

type Times = Record<string, { milliseconds: number; substeps: number }>;

/** What `frameTimes.ts` in a folder measures, with substeps by hand where they are given. */
function timesOf(folder: string, byHand: Record<string, number> = {}): Times {
  const args = ['--import', 'tsx', join(folder, 'frameTimes.ts'), process.env['SCENE'] ?? '', JSON.stringify(byHand)];
  return JSON.parse(execFileSync(process.execPath, args, { cwd: folder, encoding: 'utf8' })) as Times;
}
