import {
  newId,
  readShot,
  upgradeHistory,
  usedAssets,
  type Edit,
  type Mesh,
  type RawDocument,
  type Shot,
} from '@lumbra/core';
import { freeze } from 'immer';
import { database, type ProductionRow, type ShotRow, type TakeRow } from './database';
import { liftTexts, lowerTexts } from './longTexts';
import { keepTexts, readTexts } from './texts';
import { eraseTakesOf, listTakes } from './takes';

export async function listShots(production: string): Promise<ShotRow[]> {
  const rows = await database.shots.where('production').equals(production).sortBy('order');
  return rows.filter(({ deleted }) => deleted === undefined);
}

export interface OpenedShot {
  shot: Shot;
  assets: Map<string, Mesh>;
  production: ProductionRow | undefined;
  /** The undo list, and the place of its first edit among all that were ever made. */
  history: { first: number; done: Edit[]; undone: Edit[] };
  revision: number;
  /** The take that was looked at last. */
  take: string | undefined;
}

/** Reads a shot with its assets and its undo list. Throws ShotError when the kept document is no longer valid. */
export async function openShot(id: string): Promise<OpenedShot | undefined> {
  const read = await database.transaction(
    'r',
    [database.shots, database.assets, database.edits, database.texts, database.productions],
    async () => {
      const row = await database.shots.get(id);
      if (!row || row.deleted !== undefined) return undefined;
      const assets = await database.assets.where('shot').equals(id).toArray();
      const edits = await database.edits.where('shot').equals(id).sortBy('at');
      return {
        row,
        assets,
        edits,
        texts: await readTexts(id),
        production: await database.productions.get(row.production),
      };
    },
  );
  if (!read) return undefined;
  const { row, texts } = read;
  const document = lowerTexts(row.shot, texts);
  return {
    shot: freeze({ ...readShot(document), id }, true),
    assets: new Map(read.assets.map((asset) => [asset.id, asset.mesh])),
    production: read.production,
    history: historyOf(
      row,
      document,
      read.edits.map(({ at, edit }) => ({ at, edit: lowerTexts(edit, texts) })),
    ),
    revision: row.revision,
    take: row.take,
  };
}

function historyOf(
  row: ShotRow,
  document: RawDocument,
  edits: readonly { at: number; edit: Record<string, unknown> }[],
): OpenedShot['history'] {
  const { first, done, end } = row.edits;
  const list = edits.filter(({ at }) => at >= first && at < end);
  const at = (from: number, to: number) =>
    list.filter((one) => one.at >= from && one.at < to).map(({ edit }) => edit as unknown as Edit);
  const kept = upgradeHistory(document, { done: at(first, done), undone: at(done, end).reverse() });
  // What an upgrade could not follow is missing at the far end.
  return { first: done - kept.done.length, ...kept };
}

/** The bake of a shot that was looked at last, else its latest. */
export async function lastBake(row: ShotRow): Promise<TakeRow | undefined> {
  const bakes = (await listTakes(row.id)).filter(({ source }) => source === 'bake');
  return bakes.find(({ id }) => id === row.take) ?? bakes[0];
}

/** Forgets the meshes and texts that neither a shot, its undo list nor its takes name. Only for the tab that edits the shot. */
export async function forgetUnused(shot: string): Promise<void> {
  const { shots, edits, takes, assets, texts } = database;
  await database.transaction('rw', [shots, edits, takes, assets, texts], async () => {
    const named = JSON.stringify([
      (await shots.get(shot))?.shot,
      await edits.where('shot').equals(shot).toArray(),
      (await takes.where('shot').equals(shot).toArray()).map(({ document }) => document),
    ]);
    const unused = ([, name]: [string, string]) => !named.includes(`"${name}"`);
    await assets.bulkDelete((await assets.where('shot').equals(shot).primaryKeys()).filter(unused));
    await texts.bulkDelete((await texts.where('shot').equals(shot).primaryKeys()).filter(unused));
  });
}

/** Keeps a small picture of the shot for its card. */
export async function savePicture(id: string, picture: Blob): Promise<void> {
  await database.shots.update(id, { picture });
}

/** Remembers which take of a shot is looked at. */
export async function noteTake(id: string, take: string | undefined): Promise<void> {
  await database.shots.update(id, { take });
}

/** Adds shots at the end of a production, all of them or none. */
export async function addShots(
  production: string,
  shots: readonly { shot: Shot; assets: ReadonlyMap<string, Mesh>; picture?: Blob }[],
): Promise<void> {
  await database.transaction('rw', database.shots, database.assets, database.texts, async () => {
    const others = await database.shots.where('production').equals(production).toArray();
    let order = Math.max(-1, ...others.map((row) => row.order));
    for (const { shot, assets, picture } of shots) {
      const { lifted, texts } = liftTexts(shot);
      const row = { id: shot.id, production, order: ++order, shot: lifted, revision: 0 };
      const edits = { first: 0, done: 0, end: 0 };
      await database.shots.add({ ...row, edits, updated: Date.now(), ...(picture && { picture }) });
      await keepTexts(shot.id, texts);
      await database.assets.bulkPut([...assets].map(([id, mesh]) => ({ shot: shot.id, id, mesh })));
    }
  });
}

/** Adds a shot at the end of a production. */
export function addShot(production: string, shot: Shot, assets: ReadonlyMap<string, Mesh>): Promise<void> {
  return addShots(production, [{ shot, assets }]);
}

/** Takes a shot away from its production. Nothing of it is lost until it is erased. */
export async function deleteShot(id: string): Promise<void> {
  await database.shots.update(id, { deleted: Date.now() });
}

export async function restoreShot(id: string): Promise<void> {
  await database.shots.update(id, { deleted: undefined });
}

/** Deletes a shot for good, with its meshes, its undo list and its takes. */
export async function eraseShot(id: string): Promise<void> {
  await eraseTakesOf(id);
  const { shots, assets, edits, texts } = database;
  await database.transaction('rw', [shots, assets, edits, texts], async () => {
    await shots.delete(id);
    for (const table of [assets, edits, texts]) await table.where('shot').equals(id).delete();
  });
}

/** A copy of a shot at the end of a production, with the meshes that it uses and without its takes and history; returns its id. */
export async function copyShot(
  id: string,
  production: string,
  name: (old: string) => string,
): Promise<string | undefined> {
  const opened = await openShot(id);
  if (!opened) return undefined;
  const shot = { ...opened.shot, id: newId(), name: name(opened.shot.name) };
  const used = new Set(usedAssets(shot));
  const assets = new Map([...opened.assets].filter(([asset]) => used.has(asset)));
  const picture = (await database.shots.get(id))?.picture;
  await addShots(production, [{ shot, assets, ...(picture && { picture }) }]);
  return shot.id;
}

/** Names a shot that no tab has open; see session/renameAnywhere.ts for those that are. */
export async function renameShot(id: string, { name, code }: { name: string; code: string }): Promise<void> {
  await database.shots
    .where('id')
    .equals(id)
    .modify((row) => {
      row.shot = { ...row.shot, name, code };
      row.revision++;
      row.updated = Date.now();
    });
}
