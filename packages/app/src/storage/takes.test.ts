import { createCloth, createShot, FrameError, frameFingerprint, type FrameStats, type SolverState } from '@lumbra/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { database } from './database';
import { eraseDeleted } from './deleted';
import { addShot, eraseShot } from './shots';
import {
  beginTake,
  changeTake,
  checkpointBefore,
  copyFrames,
  eraseCut,
  keepFrames,
  keepStill,
  listTakes,
  readAccount,
  readFrame,
  TakeGoneError,
  takenShot,
  type TimedFrame,
} from './takes';

const shot = createShot({ id: 's', name: 'Shot', things: [createCloth({ id: 'c', name: 'Cloth' })] });
const span = { first: 1, inputs: { engine: 1 }, inputsHash: 'h', substeps: 4 };
const state = (time: number): SolverState => ({ time, speed: 0, arrays: new Float32Array([time]), again: [] });

function frame(number: number): TimedFrame {
  const positions = [new Float32Array([number, 1, 2])];
  const stats = { fingerprint: frameFingerprint(positions), maxStretch: number / 100 } as FrameStats;
  return { frame: number, positions, stats, seconds: 0.5 };
}
const frames = (first: number, last: number) => Array.from({ length: last - first + 1 }, (_, i) => frame(first + i));

const begin = (id: string) =>
  beginTake({
    ...{ id, shot: 's', source: 'bake', document: shot, quality: 'shot' },
    ...{ firstFrame: 1, lastFrame: 40, spans: [span] },
  });

describe('takes', () => {
  beforeEach(async () => {
    await Promise.all(database.tables.map((table) => table.clear()));
    await addShot('p', shot, new Map());
    await begin('t');
  });

  it('are numbered, and know the shot that they were made from', async () => {
    expect((await begin('u')).number).toBe(2);
    expect((await listTakes('s')).map(({ number }) => number)).toEqual([2, 1]);
    expect(await takenShot((await database.takes.get('t'))!)).toEqual(shot);
    expect(await database.shots.get('s')).toMatchObject({ take: 'u', inputsHash: 'h' });
  });

  it('list exactly the frames that are stored, and what they add up to', async () => {
    await keepFrames('t', frames(1, 8), { frame: 8, state: state(8) });
    expect((await readAccount({ id: 't' })).map((row) => row.frame)).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    await database.frameData.delete(['t', 3]);
    expect((await readAccount({ id: 't' })).map((row) => row.frame)).toEqual([1, 2, 4, 5, 6, 7, 8]);
    expect((await database.takes.get('t'))!.sum).toMatchObject({ frames: 8, worst: 0.08, seconds: 0.5, last: 8 });
  });

  it('of one pose are there with their frame or not at all', async () => {
    const given = { id: 'still', shot: 's', source: 'settle', document: shot, quality: 'shot' } as const;
    const still = { ...given, firstFrame: 1, lastFrame: 1, spans: [span] };
    const refused = vi.spyOn(database.frameData, 'bulkPut').mockRejectedValueOnce(new Error('full'));
    await expect(keepStill(still, frame(1))).rejects.toThrow('full');
    refused.mockRestore();
    expect((await listTakes('s')).map(({ id }) => id)).toEqual(['t']);
    const row = await keepStill(still, frame(1));
    expect(row).toMatchObject({ id: 'still', number: 2 });
    expect(await readAccount(row)).toHaveLength(1);
  });

  it('keep frames together with their account or not at all', async () => {
    const put = vi.spyOn(database.frames, 'bulkPut').mockRejectedValue(new DOMException('full', 'QuotaExceededError'));
    await expect(keepFrames('t', frames(1, 8), { frame: 8, state: state(8) })).rejects.toThrow();
    put.mockRestore();
    expect(await database.frameData.count()).toBe(0);
    expect(await database.checkpoints.count()).toBe(0);
    await expect(keepFrames('gone', frames(1, 1), null)).rejects.toThrow(TakeGoneError);
    expect(await database.frameData.count()).toBe(0);
  });

  it('give frames back bit for bit, and never a damaged one', async () => {
    const [kept] = frames(5, 5);
    await keepFrames('t', [kept!], null);
    expect(await readFrame('t', 5, kept!.stats)).toEqual(kept!.positions);
    await expect(readFrame('t', 6, kept!.stats)).rejects.toThrow(FrameError);
    await database.frameData.update(['t', 5], { data: new Uint8Array([1, 2, 3]) });
    await expect(readFrame('t', 5, kept!.stats)).rejects.toThrow(FrameError);
  });

  it('keep a checkpoint every twelve frames, one at the last, and one where another document takes over', async () => {
    const at = async () => (await database.checkpoints.where('take').equals('t').primaryKeys()).map(([, n]) => n);
    for (const last of [8, 12, 20, 24, 30]) await keepFrames('t', [frame(last)], { frame: last, state: state(last) });
    expect(await at()).toEqual([12, 24, 30]);
    expect((await checkpointBefore('t', 23))!.state.time).toBe(12);
    expect(await checkpointBefore('t', 11)).toBeUndefined();
    await changeTake('t', { spans: [span, { ...span, first: 31 }] });
    for (const last of [33, 36, 37]) await keepFrames('t', [frame(last)], { frame: last, state: state(last) });
    expect(await at()).toEqual([12, 24, 30, 36, 37]);
  });

  it('are cut and come back whole, until what was cut is erased', async () => {
    await keepFrames('t', frames(1, 20), { frame: 20, state: state(20) });
    await changeTake('t', { cut: 12 });
    const row = async () => (await database.takes.get('t'))!;
    expect(await readAccount(await row())).toHaveLength(12);
    expect((await row()).sum).toMatchObject({ frames: 12, last: 12 });
    await changeTake('t', { cut: undefined });
    expect(await readAccount(await row())).toHaveLength(20);
    await changeTake('t', { cut: 12 });
    await eraseCut('t');
    await changeTake('t', { cut: undefined });
    expect(await readAccount(await row())).toHaveLength(12);
    expect(await checkpointBefore('t', 99)).toBeUndefined();
  });

  it('go on from the frames of another, which stays as it is', async () => {
    await keepFrames('t', frames(1, 20), { frame: 12, state: state(12) });
    await begin('u');
    await copyFrames('t', 'u', 15);
    expect(await readAccount({ id: 'u' })).toHaveLength(15);
    expect(await readAccount({ id: 't' })).toHaveLength(20);
    expect((await checkpointBefore('u', 99))!.frame).toBe(12);
    expect(await readFrame('u', 15, frame(15).stats)).toEqual(frame(15).positions);
  });

  it('are kept for a day after they were deleted, and go with their shot', async () => {
    await keepFrames('t', frames(1, 2), null);
    await changeTake('t', { deleted: Date.now() - 1000 });
    expect(await listTakes('s')).toEqual([]);
    await eraseDeleted();
    expect(await database.frameData.count()).toBe(2);
    await changeTake('t', { deleted: Date.now() - 25 * 3600 * 1000 });
    await eraseDeleted();
    expect(await database.takes.count()).toBe(0);
    expect(await database.frameData.count()).toBe(0);
    await begin('u');
    await keepFrames('u', frames(1, 2), { frame: 2, state: state(2) });
    await eraseShot('s');
    for (const table of database.tables) expect(await table.count()).toBe(0);
  });
});
