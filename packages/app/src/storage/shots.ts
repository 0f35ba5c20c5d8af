import { readShot, type Mesh, type Shot } from '@lumbra/core';
import { deleteBake } from './bakes';
import { database, type ProductionRow, type ShotRow } from './database';

export async function listProductions(): Promise<ProductionRow[]> {
  return database.productions.toArray();
}

export async function listShots(production: string): Promise<ShotRow[]> {
  return database.shots.where('production').equals(production).sortBy('order');
}

export interface OpenedShot {
  shot: Shot;
  assets: Map<string, Mesh>;
  production: ProductionRow | undefined;
}

/** Reads a shot with its assets. Throws ShotError when the kept document is no longer valid. */
export async function openShot(id: string): Promise<OpenedShot | undefined> {
  const row = await database.shots.get(id);
  if (!row) return undefined;
  const assets = await database.assets.where('shot').equals(id).toArray();
  return {
    shot: readShot(row.shot),
    assets: new Map(assets.map((asset) => [asset.id, asset.mesh])),
    production: await database.productions.get(row.production),
  };
}

export async function saveShot(shot: Shot): Promise<void> {
  await database.shots.update(shot.id, { shot, updated: Date.now() });
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
    const order = await database.shots.where('production').equals(production).count();
    await database.shots.put({ id: shot.id, production, order, shot, updated: Date.now() });
    for (const [id, mesh] of assets) await database.assets.put({ shot: shot.id, id, mesh });
  });
}

export async function deleteShot(id: string): Promise<void> {
  await deleteBake(id);
  await database.transaction('rw', database.shots, database.assets, async () => {
    await database.shots.delete(id);
    await database.assets.where('shot').equals(id).delete();
  });
}
