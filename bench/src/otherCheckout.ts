import { execFileSync } from 'node:child_process';
import { copyFileSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The folder of the bench's scripts in this checkout. */
export const HERE = dirname(fileURLToPath(import.meta.url));

/** Copies some scripts and the shots that they bake into another checkout, which OLDER names; returns the folder of the scripts there, undefined where none is named. */
export function otherCheckout(scripts: readonly string[]): string | undefined {
  const other = process.env['OLDER'];
  if (!other) {
    console.error('Name an installed checkout of the older commit: OLDER=../older npm run bench -- older (or split)');
    return undefined;
  }
  const there = join(resolve(other), 'bench', 'src');
  const shots = join(HERE, '..', '..', 'demo', 'src');
  // These shots are younger than some commits that one compares with.
  for (const script of [...scripts, 'comparedScenes.ts']) {
    const text = readFileSync(join(HERE, script), 'utf8').replaceAll(/@lumbra\/demo\/(\w+)/g, './$1');
    writeFileSync(join(there, script), text);
  }
  copyFileSync(join(shots, 'trialShots.ts'), join(there, 'trialShots.ts'));
  copyFileSync(join(shots, 'stressShots.ts'), join(there, 'stress.ts'));
  copyFileSync(join(shots, 'keyed.ts'), join(there, 'keyed.ts'));
  return there;
}

/** What a script in a folder prints as JSON. SCENE picks shots by name. */
export function printed<T>(folder: string, script: string, ...more: string[]): T {
  const args = ['--import', 'tsx', join(folder, script), process.env['SCENE'] ?? '', ...more];
  return JSON.parse(execFileSync(process.execPath, args, { cwd: folder, encoding: 'utf8' })) as T;
}
