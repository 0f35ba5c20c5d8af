import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { meshId, readShotFile, usedAssets, type Mesh, type Shot } from '@lumbra/core';
import { cartHoops, hoodShape } from './nf090CartHood';
import { hoodAsOne } from './nf090HoodAsOne';

/** Where the shots of the demo are as files. */
export const SHOTS = path.join(path.dirname(fileURLToPath(import.meta.url)), '..', 'shots');

/** The meshes that a shot of the demo names: made anew where that is quick, else those of its file. */
export async function meshesOf(shot: Shot): Promise<Map<string, Mesh>> {
  const meshes = new Map<string, Mesh>();
  const wanted = usedAssets(shot);
  if (wanted.length === 0) return meshes;
  const file = path.join(SHOTS, `${shot.code}.lumbra`);
  const kept = existsSync(file) ? (await readShotFile(new Uint8Array(readFileSync(file)))).assets : meshes;
  const made = shot.code === 'NF090' ? [hoodAsOne(hoodShape()), cartHoops()] : [];
  for (const id of wanted) {
    const mesh = made.find((own) => meshId(own) === id) ?? kept.get(id);
    if (!mesh) throw new Error(`${shot.code} names the mesh ${id}, which is neither made nor in its file.`);
    meshes.set(id, mesh);
  }
  return meshes;
}
