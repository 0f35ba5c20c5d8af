import { database } from './database';

export async function readTexts(shot: string): Promise<Map<string, string>> {
  const rows = await database.texts.where('shot').equals(shot).toArray();
  return new Map(rows.map(({ hash, text }) => [hash, text]));
}

/** Keeps texts that are not kept yet; to be called in a transaction that writes what names them. */
export async function keepTexts(shot: string, texts: ReadonlyMap<string, string>): Promise<void> {
  const keys = [...texts.keys()].map((hash) => [shot, hash] as [string, string]);
  if (keys.length === 0) return;
  const known = await database.texts.where('[shot+hash]').anyOf(keys).primaryKeys();
  const there = new Set(known.map(([, hash]) => hash));
  const missing = [...texts].filter(([hash]) => !there.has(hash));
  if (missing.length > 0) await database.texts.bulkPut(missing.map(([hash, text]) => ({ shot, hash, text })));
}
