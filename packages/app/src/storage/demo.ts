import { NIGHT_FERRY } from '@lumbra/demo';
import { database } from './database';
import { addShots } from './shots';

/** The picture of a demo shot that ships with Lumbra; none of other shots. */
export function shippedPicture(id: string): string | null {
  return /^nf\d+$/.test(id) ? `/demo/${id.toUpperCase()}.png` : null;
}

/** Adds the demo production where it is missing; shots that an artist changed are left as they are. */
export async function ensureDemo(): Promise<void> {
  // Also where it was deleted: it can be brought back, or opened again.
  if (await database.productions.get(NIGHT_FERRY.id)) return;
  await restoreDemo();
}

/** Brings back demo shots that were deleted. */
export async function restoreDemo(): Promise<void> {
  const { productions, shots, assets, texts } = database;
  await database.transaction('rw', [productions, shots, assets, texts], async () => {
    await database.productions.put({ id: NIGHT_FERRY.id, name: NIGHT_FERRY.name, note: NIGHT_FERRY.note });
    for (const build of NIGHT_FERRY.shots) {
      const shot = build();
      const known = await database.shots.get(shot.id);
      if (known) {
        if (known.deleted !== undefined) await database.shots.update(shot.id, { deleted: undefined });
        continue;
      }
      await addShots(NIGHT_FERRY.id, [{ shot, assets: new Map() }]);
    }
  });
}
