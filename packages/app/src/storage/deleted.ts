import { database, type ProductionRow, type ShotRow } from './database';
import { takeShot } from './shotLock';
import { eraseShot } from './shots';
import { eraseTakes } from './takes';

/** What was deleted is kept so long, in ms, and erased when Lumbra is next opened. */
const KEPT = 24 * 3600 * 1000;

export interface Deleted {
  productions: ProductionRow[];
  /** Shots that were deleted by themselves, not with their production. */
  shots: ShotRow[];
}

/** What was deleted and can be brought back, the latest first. */
export async function listDeleted(): Promise<Deleted> {
  const latest = (a: { deleted?: number }, b: { deleted?: number }) => (b.deleted ?? 0) - (a.deleted ?? 0);
  const gone = ({ deleted }: { deleted?: number }) => deleted !== undefined;
  const productions = (await database.productions.toArray()).filter(gone).sort(latest);
  const shots = (await database.shots.toArray()).filter(gone).sort(latest);
  return { productions, shots };
}

/** Erases what was deleted; only what was deleted more than a day ago unless told otherwise. */
export async function eraseDeleted({ all = false } = {}): Promise<void> {
  const { productions, shots } = await listDeleted();
  const due = ({ deleted }: { deleted?: number }) => all || Date.now() - deleted! > KEPT;
  for (const { id } of shots.filter(due)) await eraseClosed(id);
  for (const { id } of productions.filter(due)) {
    const all = await database.shots.where('production').equals(id).primaryKeys();
    const erased = await Promise.all(all.map(eraseClosed));
    if (erased.every(Boolean)) await database.productions.delete(id);
  }
  await eraseOldTakes(all);
}

/** Erases a shot unless a tab has it open; that one is left for another time. Returns whether it did. */
async function eraseClosed(id: string): Promise<boolean> {
  const lock = await takeShot(id);
  if (!lock) return false;
  try {
    await eraseShot(id);
  } finally {
    lock.release();
  }
  return true;
}

/** Erases takes that were deleted by themselves more than a day ago. */
async function eraseOldTakes(all: boolean): Promise<void> {
  const due = (await database.takes.toArray()).filter(
    ({ deleted }) => deleted !== undefined && (all || Date.now() - deleted > KEPT),
  );
  await eraseTakes(due.map(({ id }) => id));
}
