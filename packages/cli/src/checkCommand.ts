import { readFile } from 'node:fs/promises';
import { readShotFile } from '@lumbra/core';
import { checkShot } from '@lumbra/core/checks';

/** Prints what the checks before a run find, a line each; fails when one of them is grave. */
export async function checkCommand(file: string): Promise<void> {
  const bytes = await readFile(file).catch(() => {
    throw new Error(`${file}: there is no such file.`);
  });
  const { shot, assets } = await readShotFile(new Uint8Array(bytes));
  const found = checkShot(shot, assets, { bake: null, bytesFree: null });
  for (const { grave, text } of found) console.log(`${grave ? 'mend' : 'look'}: ${text}`);
  if (found.length === 0) console.log('All checks pass.');
  if (found.some(({ grave }) => grave)) process.exitCode = 1;
}
