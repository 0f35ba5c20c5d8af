// Writes the demo's shots as .lumbra files into demo/shots, for the command line and for the app, which reads them from there. Run by `npm run write
// -w @lumbra/demo`. With `-- --still` the still of NF010 is baked anew first, which takes minutes; it says what to write into nf010Still.ts then.
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { meshId, writeShotFile, type Mesh, type Shot } from '@lumbra/core';
import { meshesOf, SHOTS } from './meshesOf';
import { COVER_STILL, coverStill } from './nf010Still';
import { NIGHT_FERRY } from './index';

mkdirSync(SHOTS, { recursive: true });

async function write(shot: Shot, meshes: ReadonlyMap<string, Mesh>): Promise<void> {
  const file = path.join(SHOTS, `${shot.code}.lumbra`);
  writeFileSync(file, await writeShotFile(shot, new Map(meshes)));
  console.log(`demo: wrote ${path.basename(file)}`);
}

if (process.argv.includes('--still')) {
  const shot = NIGHT_FERRY.shots.map((build) => build()).find(({ code }) => code === 'NF010')!;
  const { mesh, at } = await coverStill(shot);
  const id = meshId(mesh);
  // In a file of the shot that names it, so that it is read back from there.
  const renamed = JSON.parse(JSON.stringify(shot).replaceAll(COVER_STILL, id)) as Shot;
  await write(renamed, new Map([[id, mesh]]));
  console.log(
    `demo: COVER_STILL = '${id}', COVER_STILL_AT = [${at.map((value) => Number(value.toFixed(6))).join(', ')}]`,
  );
} else {
  for (const build of NIGHT_FERRY.shots) {
    const shot = build();
    await write(shot, await meshesOf(shot));
  }
}
