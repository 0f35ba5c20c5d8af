import type { Edit, FrameStats, RunInputs, SolverState } from '@lumbra/core';
import { encodeFrame } from '@lumbra/core';
import type { Transaction } from 'dexie';
import { decodeChunk } from './frameChunk';

// From version 2 of the database: a shot had one bake, its frames in chunks, and its undo list in one row.

interface OldBake {
  shot: string;
  inputs: RunInputs;
  inputsHash: string;
  substeps: number;
  firstFrame: number;
  frames: { frame: number; stats: FrameStats }[];
  checkpoint: { frame: number; state: SolverState };
}

interface OldHistory {
  shot: string;
  done: Edit[];
  undone: Edit[];
}

/** Makes a take of each bake, and a row of each edit. What cannot be read is left out; nothing else depends on it. */
export async function bakesToTakes(transaction: Transaction): Promise<void> {
  const shots = transaction.table<{ id: string; shot: { lastFrame: number; run: { quality: string } } }>('shots');
  await shots.toCollection().modify((row) => {
    Object.assign(row, { revision: 0, edits: { first: 0, done: 0, end: 0 } });
  });
  for (const { shot, done, undone } of await transaction.table<OldHistory>('histories').toArray()) {
    const all = [...done, ...[...undone].reverse()];
    await transaction.table('edits').bulkPut(all.map((edit, at) => ({ shot, at, edit })));
    await shots.update(shot, { edits: { first: 0, done: done.length, end: all.length } } as object);
  }
  for (const bake of await transaction.table<OldBake>('bakes').toArray()) {
    const row = await shots.get(bake.shot);
    if (row) await addTake(transaction, bake, row.shot);
  }
}

async function addTake(
  transaction: Transaction,
  bake: OldBake,
  shot: { lastFrame: number; run: { quality: string } },
): Promise<void> {
  const take = `${bake.shot}-1`.slice(-64);
  const known = new Map(bake.frames.map(({ frame, stats }) => [frame, stats]));
  const chunks = transaction.table<{ shot: string; firstFrame: number; bytes: Uint8Array<ArrayBuffer> }>('chunks');
  const keys = await chunks.where('shot').equals(bake.shot).primaryKeys();
  const sum = { frames: 0, worst: 0, seconds: 0, bytes: 0, last: null as number | null };
  for (const key of keys) {
    try {
      for (const { frame, positions } of decodeChunk((await chunks.get(key))!.bytes)) {
        const stats = known.get(frame);
        if (!stats) continue;
        const data = encodeFrame(positions);
        await transaction.table('frames').put({ take, frame, stats, seconds: 0, bytes: data.length });
        await transaction.table('frameData').put({ take, frame, data });
        sum.frames++;
        sum.bytes += data.length;
        sum.worst = Math.max(sum.worst, stats.maxStretch);
        sum.last = Math.max(sum.last ?? frame, frame);
      }
    } catch {
      // A damaged chunk is a hole.
    }
  }
  const { inputs, inputsHash, substeps, firstFrame, checkpoint } = bake;
  if (checkpoint.frame >= firstFrame) await transaction.table('checkpoints').put({ take, ...checkpoint });
  await transaction.table('takes').put({
    ...{ id: take, shot: bake.shot, number: 1, name: '', note: '', keep: false, source: 'bake', made: Date.now() },
    ...{
      document: null,
      quality: shot.run.quality,
      firstFrame,
      lastFrame: Math.max(shot.lastFrame, sum.last ?? bake.firstFrame),
      sum,
    },
    spans: [{ first: firstFrame, inputs, inputsHash, substeps }],
  });
}
