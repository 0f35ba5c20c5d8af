import {
  decodeFrame,
  encodeFrame,
  readShot,
  type BakedFrame,
  type FrameStats,
  type Shot,
  type RunState,
} from '@lumbra/core';
import { Dexie, type Table } from 'dexie';
import { database, type CheckpointRow, type FrameRow, type TakeRow } from './database';
import { liftTexts, lowerTexts } from './longTexts';
import { keepTexts, readTexts } from './texts';

/** A checkpoint stays at every so many frames; besides, there is one at the last frame that was kept, and one where the shot changed. */
export const CHECKPOINT_FRAMES = 12;

/** A frame with how long it took, in s. */
export interface TimedFrame extends BakedFrame {
  seconds: number;
}

/** The take is no longer there: it was erased while its frames were being computed. */
export class TakeGoneError extends Error {
  constructor() {
    super('This take was erased while it was being baked.');
  }
}

const NOTHING = { frames: 0, worst: 0, seconds: 0, bytes: 0, last: null };

/** What a take is begun with. */
export type NewTake = Omit<TakeRow, 'number' | 'made' | 'document' | 'sum' | 'name' | 'note' | 'keep'> & {
  document: Shot;
  name?: string;
};

/** Begins a take of a shot; the shot’s row then knows what its run depends on. Returns it. */
export async function beginTake({ document, ...given }: NewTake): Promise<TakeRow> {
  const { lifted, texts } = liftTexts(document);
  return database.transaction('rw', database.takes, database.texts, database.shots, async () => {
    const others = await database.takes.where('shot').equals(given.shot).toArray();
    const number = Math.max(0, ...others.map((take) => take.number)) + 1;
    const plain = { name: '', note: '', keep: false };
    const row: TakeRow = { ...plain, ...given, number, made: Date.now(), document: lifted, sum: NOTHING };
    await keepTexts(given.shot, texts);
    await database.takes.add(row);
    await database.shots.update(given.shot, {
      take: row.source === 'bake' ? row.id : undefined,
      inputsHash: row.spans.at(-1)!.inputsHash,
    });
    return row;
  });
}

/** The takes of a shot that are not deleted, the latest first. */
export async function listTakes(shot: string): Promise<TakeRow[]> {
  const rows = await database.takes.where('shot').equals(shot).toArray();
  return rows.filter(({ deleted }) => deleted === undefined).sort((a, b) => b.number - a.number);
}

/** The shot that a take was made from; null where it is not known. */
export async function takenShot(take: Pick<TakeRow, 'shot' | 'document'>): Promise<Shot | null> {
  return take.document && readShot(lowerTexts(take.document, await readTexts(take.shot)));
}

/** The frames of a take that are stored and not cut, in order. */
export async function readAccount({ id, cut }: Pick<TakeRow, 'id' | 'cut'>): Promise<FrameRow[]> {
  const [rows, stored] = await Promise.all([
    database.frames.where('take').equals(id).sortBy('frame'),
    database.frameData.where('take').equals(id).primaryKeys(),
  ]);
  const there = new Set(stored.map(([, frame]) => frame));
  return rows.filter(({ frame }) => there.has(frame) && (cut === undefined || frame <= cut));
}

/**
 * Keeps frames of a take, and a checkpoint at the last of them, all or nothing.
 * @throws TakeGoneError, and what the browser refuses with
 */
export async function keepFrames(
  take: string,
  frames: readonly TimedFrame[],
  checkpoint: { frame: number; state: RunState } | null,
): Promise<void> {
  const data = frames.map(({ frame, positions }) => ({ take, frame, data: encodeFrame(positions) }));
  const tables = [database.takes, database.frames, database.frameData, database.checkpoints];
  await database.transaction('rw', tables, async () => {
    const row = await database.takes.get(take);
    if (!row) throw new TakeGoneError();
    await database.frameData.bulkPut(data);
    await database.frames.bulkPut(
      frames.map(({ frame, stats, seconds }, i) => ({ take, frame, stats, seconds, bytes: data[i]!.data.length })),
    );
    if (checkpoint) {
      const others = await database.checkpoints.where('take').equals(take).primaryKeys();
      const lasting = (frame: number) =>
        frame % CHECKPOINT_FRAMES === 0 || row.spans.some(({ first }) => first - 1 === frame);
      const passing = others.filter(([, frame]) => !lasting(frame) && frame < checkpoint.frame);
      await database.checkpoints.bulkDelete(passing);
      await database.checkpoints.put({ take, ...checkpoint });
    }
    await sumUp(take);
  });
}

/** Begins a take of one pose and keeps it, all or nothing: it is never listed without its frame. */
export async function keepStill(given: NewTake, still: TimedFrame): Promise<TakeRow> {
  const { takes, texts, shots, frames, frameData, checkpoints } = database;
  return database.transaction('rw', [takes, texts, shots, frames, frameData, checkpoints], async () => {
    const row = await beginTake(given);
    await keepFrames(row.id, [still], null);
    return row;
  });
}

/** Writes what the stored frames of a take add up to; to be called in a transaction on takes and frames. */
async function sumUp(take: string): Promise<void> {
  const row = await database.takes.get(take);
  if (!row) return;
  const all = await database.frames.where('take').equals(take).toArray();
  const rows = all.filter(({ frame }) => row.cut === undefined || frame <= row.cut);
  const add = (value: (frame: FrameRow) => number) => rows.reduce((total, frame) => total + value(frame), 0);
  await database.takes.update(take, {
    sum: {
      frames: rows.length,
      worst: Math.max(0, ...rows.map(({ stats }) => stats.maxStretch)),
      seconds: rows.length === 0 ? 0 : add(({ seconds }) => seconds) / rows.length,
      // What is cut takes room until it is erased.
      bytes: all.reduce((total, { bytes }) => total + bytes, 0),
      last: rows.length === 0 ? null : Math.max(...rows.map(({ frame }) => frame)),
    },
  });
}

/**
 * The points of a stored frame.
 * @throws FrameError when it cannot be read or was damaged
 */
export async function readFrame(
  take: string,
  frame: number,
  { fingerprint }: Pick<FrameStats, 'fingerprint'>,
): Promise<Float32Array<ArrayBuffer>[]> {
  const row = await database.frameData.get([take, frame]);
  return decodeFrame(row?.data ?? new Uint8Array(), fingerprint);
}

/** The nearest checkpoint of a take at or before a frame. */
export async function checkpointBefore(take: string, frame: number): Promise<CheckpointRow | undefined> {
  return database.checkpoints.where('[take+frame]').between([take, Dexie.minKey], [take, frame], true, true).last();
}

/** Copies the frames of a take up to one, with its checkpoints, to another take. */
export async function copyFrames(from: string, to: string, last: number): Promise<void> {
  const { takes, frames, frameData, checkpoints } = database;
  await database.transaction('rw', [takes, frames, frameData, checkpoints], async () => {
    const upTo = <Row extends { take: string; frame: number }>(table: Table<Row, [string, number]>) =>
      table.where('[take+frame]').between([from, Dexie.minKey], [from, last], true, true);
    await upTo(checkpoints).each((row) => void checkpoints.put({ ...row, take: to }));
    await upTo(frames).each((row) => void frames.put({ ...row, take: to }));
    await upTo(frameData).each((row) => void frameData.put({ ...row, take: to }));
    await sumUp(to);
  });
}

/** Changes what a person says of a take, or whether it is deleted or cut. Undefined entries are taken away. */
export async function changeTake(
  id: string,
  change: Partial<Pick<TakeRow, 'name' | 'note' | 'keep' | 'deleted' | 'cut' | 'picture' | 'lastFrame' | 'spans'>>,
): Promise<void> {
  await database.transaction('rw', database.takes, database.frames, async () => {
    await database.takes.update(id, change);
    if ('cut' in change) await sumUp(id);
  });
}

/** Erases what a take has beyond its cut, for good, so that it can be baked anew from there. */
export async function eraseCut(id: string): Promise<void> {
  const { takes, frames, frameData, checkpoints } = database;
  await database.transaction('rw', [takes, frames, frameData, checkpoints], async () => {
    const cut = (await takes.get(id))?.cut;
    if (cut === undefined) return;
    for (const table of [frames, frameData, checkpoints] as Table<unknown, [string, number]>[])
      await table.where('[take+frame]').between([id, cut], [id, Dexie.maxKey], false, true).delete();
    await takes.update(id, { cut: undefined });
    await sumUp(id);
  });
}

/** Deletes takes for good, with their frames. */
export async function eraseTakes(ids: readonly string[]): Promise<void> {
  const { takes, frames, frameData, checkpoints } = database;
  // One after the other: a browser that is short of room may refuse one large change.
  for (const id of ids) {
    await database.transaction('rw', [takes, frames, frameData, checkpoints], async () => {
      for (const table of [frames, frameData, checkpoints]) await table.where('take').equals(id).delete();
      await takes.delete(id);
    });
  }
}

export async function eraseTakesOf(shot: string): Promise<void> {
  await eraseTakes(await database.takes.where('shot').equals(shot).primaryKeys());
}
