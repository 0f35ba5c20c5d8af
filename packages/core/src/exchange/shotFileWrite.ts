import { strToU8, zip, type AsyncZippable } from 'fflate';
import type { Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { usedAssets } from '../shot/usedAssets';
import { writeGlb } from './glbWrite';
import { writeMotion } from './motionFile';

/** The names of what a `.lumbra` file holds. */
export const DOCUMENT = 'shot.json';
export const PRODUCTION = 'production.json';

/** A fixed date, so that the same shot gives the same file. */
const MODIFIED = new Date(2026, 0, 1);

/** A `.lumbra` file: a zip of shot.json and the meshes that the shot uses, as GLB, with their animation beside them. */
export async function writeShotFile(shot: Shot, assets: Assets): Promise<Uint8Array> {
  return pack(await shotEntries(shot, assets, ''));
}

/** A `.lumbra` file of a whole production: production.json names it, and each shot has a folder as in a shot file. */
export async function writeProductionFile(
  production: { name: string; note: string },
  shots: readonly { shot: Shot; assets: Assets }[],
): Promise<Uint8Array> {
  const order = shots.map(({ shot }) => shot.id);
  const files: AsyncZippable = {
    [PRODUCTION]: strToU8(JSON.stringify({ ...production, shots: order }, null, 2) + '\n'),
  };
  for (const { shot, assets } of shots) Object.assign(files, await shotEntries(shot, assets, `shots/${shot.id}/`));
  return pack(files);
}

async function shotEntries(shot: Shot, assets: Assets, folder: string): Promise<AsyncZippable> {
  const files: AsyncZippable = { [folder + DOCUMENT]: strToU8(JSON.stringify(shot, null, 2) + '\n') };
  for (const id of usedAssets(shot)) {
    const mesh = assets.get(id);
    if (!mesh) continue;
    files[`${folder}assets/${id}.glb`] = await writeGlb([{ name: id, mesh }], { frameRate: shot.frameRate });
    if (!mesh.motion) continue;
    const { header, numbers } = writeMotion(mesh.motion);
    files[`${folder}assets/${id}.motion.json`] = strToU8(header);
    files[`${folder}assets/${id}.motion.bin`] = numbers;
  }
  return files;
}

function pack(files: AsyncZippable): Promise<Uint8Array> {
  // Names come from ids, which have no such characters; whoever unpacks a file must never be led out of a folder.
  const outside = Object.keys(files).find((name) => !/^[\w-][\w./-]*$/.test(name) || name.split('/').includes('..'));
  if (outside !== undefined) throw new Error(`“${outside}” cannot be the name of a file.`);
  return new Promise((resolve, reject) => {
    zip(files, { mtime: MODIFIED }, (error, data) => (error ? reject(error) : resolve(data)));
  });
}
