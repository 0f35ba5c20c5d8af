import type { Mesh, Shot } from '@lumbra/core';
import { PRODUCTION } from '@lumbra/demo/production';
import { database } from './database';
import { addShots } from './shots';

/** The shots of the demo as they ship with Lumbra. */
export interface DemoFiles {
  /** The codes of all, in order. A shot's id is its code in small letters. */
  codes: readonly string[];
  /** Reads a shot and its meshes. @throws Error where it cannot be read */
  read: (code: string) => Promise<{ shot: Shot; assets: ReadonlyMap<string, Mesh> }>;
}

/** The picture of a demo shot that ships with Lumbra; none of other shots. */
export function shippedPicture(id: string): string | null {
  return /^nf\d+$/.test(id) ? `/demo/${id.toUpperCase()}.png` : null;
}

/** Adds the demo production where it is missing; shots that an artist changed are left as they are. */
export async function ensureDemo(files: DemoFiles): Promise<void> {
  // Also where it was deleted: it can be brought back, or opened again.
  if (await database.productions.get(PRODUCTION.id)) return;
  await restoreDemo(files);
}

/** Brings back demo shots that were deleted. Those that cannot be read are left out, come with the next time, and are given back by their codes. */
export async function restoreDemo(files: DemoFiles): Promise<string[]> {
  const kept = await database.shots.bulkGet(files.codes.map((code) => code.toLowerCase()));
  const missing = files.codes.filter((_, i) => !kept[i]);
  // Read before: the storage does not wait for anything else in the middle of a change.
  const read = await Promise.all(missing.map((code) => files.read(code).catch(() => null)));
  // An empty production would count as there, and never be filled.
  if (kept.every((row) => !row) && read.every((one) => !one)) return missing;
  const { productions, shots, assets, texts } = database;
  await database.transaction('rw', [productions, shots, assets, texts], async () => {
    await database.productions.put(PRODUCTION);
    for (const row of kept) if (row?.deleted !== undefined) await shots.update(row.id, { deleted: undefined });
    // Another tab may have brought one meanwhile.
    const here = new Set(await shots.toCollection().primaryKeys());
    await addShots(
      PRODUCTION.id,
      read.filter((one) => one !== null).filter(({ shot }) => !here.has(shot.id)),
    );
  });
  return missing.filter((_, i) => !read[i]);
}
