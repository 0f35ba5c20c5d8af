// Writes the demo's shots as .lumbra files into demo/shots, for the command line. Run by `npm run write -w @lumbra/demo`.
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { writeShotFile } from '@lumbra/core';
import { NIGHT_FERRY } from './index';

const folder = path.join(path.dirname(fileURLToPath(import.meta.url)), '..', 'shots');
mkdirSync(folder, { recursive: true });
for (const build of NIGHT_FERRY.shots) {
  const shot = build();
  const file = path.join(folder, `${shot.code}.lumbra`);
  writeFileSync(file, await writeShotFile(shot, new Map()));
  console.log(`demo: wrote ${path.basename(file)}`);
}
