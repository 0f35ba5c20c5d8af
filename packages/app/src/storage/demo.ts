import { usedAssets, type Mesh } from '@lumbra/core';
import { PRODUCTION } from '@lumbra/demo/production';
import { database } from './database';
import { addShots } from './shots';

/** Gives the meshes of a demo shot, by its code, from the file that ships with Lumbra. */
export type ReadMeshes = (code: string) => Promise<ReadonlyMap<string, Mesh>>;

/** The picture of a demo shot that ships with Lumbra; none of other shots. */
export function shippedPicture(id: string): string | null {
  return /^nf\d+$/.test(id) ? `/demo/${id.toUpperCase()}.png` : null;
}

/** Adds the demo production where it is missing; shots that an artist changed are left as they are. */
export async function ensureDemo(readMeshes: ReadMeshes): Promise<void> {
  // Also where it was deleted: it can be brought back, or opened again.
  if (await database.productions.get(PRODUCTION.id)) return;
  await restoreDemo(readMeshes);
}

/** Brings back demo shots that were deleted. One whose meshes cannot be read is left out, and comes with the next time. */
export async function restoreDemo(readMeshes: ReadMeshes): Promise<void> {
  // Loaded when they are first asked for.
  const { NIGHT_FERRY } = await import('@lumbra/demo');
  const made = NIGHT_FERRY.shots.map((build) => build());
  // Read before: the storage does not wait for anything else in the middle of a change.
  const meshes = await Promise.all(
    made.map(async (shot) => {
      if (usedAssets(shot).length === 0 || (await database.shots.get(shot.id))) return new Map();
      return readMeshes(shot.code ?? '').catch(() => null);
    }),
  );
  const { productions, shots, assets, texts } = database;
  await database.transaction('rw', [productions, shots, assets, texts], async () => {
    await database.productions.put(PRODUCTION);
    for (const [i, shot] of made.entries()) {
      const known = await database.shots.get(shot.id);
      if (known) {
        if (known.deleted !== undefined) await database.shots.update(shot.id, { deleted: undefined });
        continue;
      }
      const own = meshes[i];
      if (own) await addShots(PRODUCTION.id, [{ shot, assets: own }]);
    }
  });
}
