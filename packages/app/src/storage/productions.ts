import { newId } from '@lumbra/core';
import { database, type ProductionRow } from './database';
import { copyShot, eraseShot, listShots } from './shots';

export async function listProductions(): Promise<ProductionRow[]> {
  const rows = await database.productions.toArray();
  return rows.filter(({ deleted }) => deleted === undefined);
}

export async function addProduction(name: string, note = ''): Promise<ProductionRow> {
  const row = { id: newId(), name, note };
  await database.productions.put(row);
  return row;
}

export async function renameProduction(id: string, name: string): Promise<void> {
  await database.productions.update(id, { name });
}

/** A copy of a production with copies of its shots, without their bakes. */
export async function copyProduction(from: ProductionRow): Promise<ProductionRow> {
  const copy = await addProduction(`${from.name}, copy`.slice(0, 120), from.note);
  for (const { id } of await listShots(from.id)) await copyShot(id, copy.id, (name) => name);
  return copy;
}

/** Takes a production away with all its shots. Nothing of it is lost until it is erased. */
export async function deleteProduction(id: string): Promise<void> {
  await database.productions.update(id, { deleted: Date.now() });
}

export async function restoreProduction(id: string): Promise<void> {
  await database.productions.update(id, { deleted: undefined });
}

/** Deletes a production and its shots for good. */
export async function eraseProduction(id: string): Promise<void> {
  const shots = await database.shots.where('production').equals(id).primaryKeys();
  for (const shot of shots) await eraseShot(shot);
  await database.productions.delete(id);
}
