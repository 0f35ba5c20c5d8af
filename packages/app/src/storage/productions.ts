import { newId } from '@lumbra/core';
import { database, type ProductionRow } from './database';
import { copyShot, deleteShot, listShots, restoreShot, type KeptShot } from './shots';

export async function listProductions(): Promise<ProductionRow[]> {
  return database.productions.toArray();
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

/** All that is kept of a production, to bring it back after it was deleted. */
export interface KeptProduction {
  row: ProductionRow;
  shots: KeptShot[];
}

export async function deleteProduction(row: ProductionRow): Promise<KeptProduction> {
  const shots: KeptShot[] = [];
  for (const { id } of await listShots(row.id)) {
    const kept = await deleteShot(id);
    if (kept) shots.push(kept);
  }
  await database.productions.delete(row.id);
  return { row, shots };
}

export async function restoreProduction({ row, shots }: KeptProduction): Promise<void> {
  await database.productions.put(row);
  for (const shot of shots) await restoreShot(shot);
}
