import { newId, readShot, type Edit, type Mesh, type Shot } from '@lumbra/core';
import { deleteBake } from './bakes';
import { database, type HistoryRow, type ProductionRow, type ShotRow } from './database';

export async function listShots(production: string): Promise<ShotRow[]> {
  const rows = await database.shots.where('production').equals(production).sortBy('order');
  return rows.filter(({ deleted }) => deleted === undefined);
}

export interface OpenedShot {
  shot: Shot;
  assets: Map<string, Mesh>;
  production: ProductionRow | undefined;
  history: { done: Edit[]; undone: Edit[] };
}

/** Reads a shot with its assets and its undo list. Throws ShotError when the kept document is no longer valid. */
export async function openShot(id: string): Promise<OpenedShot | undefined> {
  const row = await database.shots.get(id);
  if (!row || row.deleted !== undefined) return undefined;
  const [assets, history, production] = await Promise.all([
    database.assets.where('shot').equals(id).toArray(),
    database.histories.get(id),
    database.productions.get(row.production),
  ]);
  return {
    shot: readShot(row.shot),
    assets: new Map(assets.map((asset) => [asset.id, asset.mesh])),
    production,
    history: { done: history?.done ?? [], undone: history?.undone ?? [] },
  };
}

/** Keeps a shot and its undo list, both or neither. */
export async function saveShot(shot: Shot, history: Omit<HistoryRow, 'shot'>): Promise<void> {
  await database.transaction('rw', database.shots, database.histories, async () => {
    await database.shots.update(shot.id, { shot, updated: Date.now() });
    await database.histories.put({ shot: shot.id, ...history });
  });
}

/** Forgets the meshes that neither a shot nor its undo list names any more. */
export async function forgetUnused({ shot, assets, history }: OpenedShot): Promise<void> {
  const text = JSON.stringify([shot, history]);
  const unused = [...assets.keys()].filter((id) => !text.includes(`"${id}"`));
  if (unused.length > 0) await database.assets.bulkDelete(unused.map((id) => [shot.id, id]));
}

export async function saveAsset(shot: string, id: string, mesh: Mesh): Promise<void> {
  await database.assets.put({ shot, id, mesh });
}

/** Keeps a small picture of the shot for its card. */
export async function savePicture(id: string, picture: Blob): Promise<void> {
  await database.shots.update(id, { picture });
}

/** Adds a shot at the end of a production. */
export async function addShot(production: string, shot: Shot, assets: ReadonlyMap<string, Mesh>): Promise<void> {
  await database.transaction('rw', database.shots, database.assets, async () => {
    const others = await database.shots.where('production').equals(production).toArray();
    const order = Math.max(-1, ...others.map((row) => row.order)) + 1;
    await database.shots.put({ id: shot.id, production, order, shot, updated: Date.now() });
    for (const [id, mesh] of assets) await database.assets.put({ shot: shot.id, id, mesh });
  });
}

/** Takes a shot away from its production. Nothing of it is lost until it is erased. */
export async function deleteShot(id: string): Promise<void> {
  await database.shots.update(id, { deleted: Date.now() });
}

export async function restoreShot(id: string): Promise<void> {
  await database.shots.update(id, { deleted: undefined });
}

/** Deletes a shot for good, with its meshes, its undo list and its bake. */
export async function eraseShot(id: string): Promise<void> {
  await deleteBake(id);
  await database.transaction('rw', database.shots, database.assets, database.histories, async () => {
    await database.shots.delete(id);
    await database.histories.delete(id);
    await database.assets.where('shot').equals(id).delete();
  });
}

/** A copy of a shot at the end of a production, with its meshes and without its bake and history; returns its id. */
export async function copyShot(
  id: string,
  production: string,
  name: (old: string) => string,
): Promise<string | undefined> {
  const opened = await openShot(id);
  if (!opened) return undefined;
  const copy = { ...opened.shot, id: newId(), name: name(opened.shot.name) };
  await addShot(production, copy, opened.assets);
  const picture = (await database.shots.get(id))?.picture;
  if (picture) await savePicture(copy.id, picture);
  return copy.id;
}

export async function renameShot(id: string, { name, code }: { name: string; code: string }): Promise<void> {
  const row = await database.shots.get(id);
  if (row) await database.shots.update(id, { shot: { ...row.shot, name, code }, updated: Date.now() });
}
