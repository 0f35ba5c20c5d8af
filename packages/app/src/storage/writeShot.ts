import type { Edit, Mesh, Shot } from '@lumbra/core';
import { Dexie } from 'dexie';
import { database } from './database';
import { liftTexts } from './longTexts';
import { keepTexts } from './texts';

/** What an open shot has to write: the document, its undo list as far as it has changed, and new meshes. */
export interface ShotWrite {
  shot: Shot;
  /** The revision that the row must still have. */
  revision: number;
  edits: { first: number; done: number; end: number };
  changed: readonly { at: number; edit: Edit }[];
  meshes: ReadonlyMap<string, Mesh>;
  inputsHash: string;
}

/** The shot is no longer in the browser: it was erased elsewhere. */
export class ShotGoneError extends Error {
  constructor() {
    super('This shot was erased in another tab or window.');
  }
}

/** Somebody else has written the shot since it was read here. */
export class ShotChangedError extends Error {
  constructor() {
    super('This shot was changed in another tab or window.');
  }
}

/**
 * Writes an open shot, all of it or nothing; returns its new revision.
 * @throws ShotGoneError, ShotChangedError, and what the browser refuses with
 */
export async function writeShot(write: ShotWrite): Promise<number> {
  const { shot, revision, edits, changed, meshes, inputsHash } = write;
  const document = liftTexts(shot);
  const rows = changed.map(({ at, edit }) => ({ at, ...liftTexts(edit) }));
  const tables = [database.shots, database.edits, database.texts, database.assets];
  return database.transaction('rw', tables, async () => {
    const row = await database.shots.get(shot.id);
    if (!row) throw new ShotGoneError();
    if (row.revision !== revision) throw new ShotChangedError();
    await database.assets.bulkPut([...meshes].map(([id, mesh]) => ({ shot: shot.id, id, mesh })));
    await keepTexts(shot.id, new Map([document, ...rows].flatMap(({ texts }) => [...texts])));
    const list = (from: number, to: number) =>
      database.edits.where('[shot+at]').between([shot.id, from], [shot.id, to], true, false);
    await list(Dexie.minKey as unknown as number, edits.first).delete();
    await list(edits.end, Dexie.maxKey as unknown as number).delete();
    await database.edits.bulkPut(rows.map(({ at, lifted }) => ({ shot: shot.id, at, edit: lifted })));
    await database.shots.put({
      ...row,
      shot: document.lifted,
      revision: revision + 1,
      edits,
      inputsHash,
      updated: Date.now(),
    });
    return revision + 1;
  });
}
