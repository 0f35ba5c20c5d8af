import { createCloth, createShot, edit, frameFingerprint, type FrameStats } from '@lumbra/core';
import { Dexie } from 'dexie';
import { beforeEach, expect, it, vi } from 'vitest';

const shot = createShot({ id: 's', name: 'Shot', lastFrame: 10, things: [createCloth({ id: 'c', name: 'Cloth' })] });
const step = (of: typeof shot, name: string) => edit(of, `Name ${name}`, (draft) => void (draft.name = name));

/** A run of frames as version 2 of the database kept it. */
function chunk(frames: { frame: number; positions: Float32Array[] }[]): Uint8Array {
  const header = JSON.stringify({
    frames: frames.map(({ frame, positions }) => ({ frame, stats: {}, counts: positions.map(({ length }) => length) })),
  });
  const text = new TextEncoder().encode(header);
  const start = (12 + text.length + 3) & ~3;
  const values = frames.flatMap(({ positions }) => positions.flatMap((cloth) => [...cloth]));
  const bytes = new Uint8Array(start + values.length * 4);
  const view = new DataView(bytes.buffer);
  [0x43424d4c, 2, text.length].forEach((word, i) => view.setUint32(i * 4, word, true));
  bytes.set(text, 12);
  bytes.set(new Uint8Array(new Float32Array(values).buffer), start);
  return bytes;
}

const points = (frame: number) => [new Float32Array([frame, 0, 1])];
const stats = (frame: number) =>
  ({ fingerprint: frameFingerprint(points(frame)), maxStretch: frame / 100 }) as FrameStats;
const frames = (...numbers: number[]) => numbers.map((frame) => ({ frame, positions: points(frame) }));

/** The database as an older Lumbra left it: a shot with its undo list and a bake whose second chunk is damaged. */
async function older(): Promise<void> {
  const old = new Dexie('lumbra');
  old.version(1).stores({
    ...{ productions: 'id', shots: 'id, production', assets: '[shot+id], shot' },
    ...{ bakes: 'shot', chunks: '[shot+firstFrame], shot' },
  });
  old.version(2).stores({ histories: 'shot' });
  const [first, second] = [step(shot, 'A'), step(step(shot, 'A').shot, 'B')];
  await old.table('shots').put({ id: 's', production: 'p', order: 0, shot: first.shot, updated: 1 });
  await old.table('histories').put({ shot: 's', done: [first.edit], undone: [second.edit] });
  await old.table('bakes').put({
    ...{ shot: 's', inputs: { weight: 1 }, inputsHash: 'h', substeps: 7, firstFrame: 1 },
    frames: [1, 2, 3, 4, 5].map((frame) => ({ frame, stats: stats(frame) })),
    checkpoint: { frame: 5, state: { time: 1, speed: 0, arrays: new Float32Array(4), again: [] } },
  });
  await old.table('chunks').bulkPut([
    { shot: 's', firstFrame: 1, bytes: chunk(frames(1, 2)) },
    { shot: 's', firstFrame: 3, bytes: chunk(frames(3)).slice(0, 20) },
    { shot: 's', firstFrame: 4, bytes: chunk(frames(4, 5)) },
  ]);
  old.close();
}

beforeEach(async () => {
  await Dexie.delete('lumbra');
  vi.resetModules();
});

it('turns the bake of an older database into a take, and its undo list into rows; what is damaged becomes a hole', async () => {
  await older();
  const { database } = await import('../database');
  const { openShot } = await import('../shots');
  const { listTakes, readAccount, readFrame, checkpointBefore } = await import('../takes');
  const opened = (await openShot('s'))!;
  expect(opened.shot.name).toBe('A');
  expect(opened.history.done.map(({ label }) => label)).toEqual(['Name A']);
  expect(opened.history.undone.map(({ label }) => label)).toEqual(['Name B']);
  const [take] = await listTakes('s');
  expect(take).toMatchObject({ number: 1, lastFrame: 10, document: null, sum: { frames: 4, worst: 0.05, last: 5 } });
  expect(take!.spans).toEqual([{ first: 1, inputs: { weight: 1 }, inputsHash: 'h', substeps: 7 }]);
  const account = await readAccount(take!);
  expect(account.map(({ frame }) => frame)).toEqual([1, 2, 4, 5]);
  for (const row of account) expect(await readFrame(take!.id, row.frame, row.stats)).toEqual(points(row.frame));
  expect((await checkpointBefore(take!.id, 9))!.frame).toBe(5);
  expect(database.tables.map(({ name }) => name)).not.toContain('bakes');
});

it('opens rows that were damaged, or says what is wrong with them', async () => {
  const { database } = await import('../database');
  const { addShot, openShot } = await import('../shots');
  const fc = (await import('fast-check')).default;
  const { ShotError } = await import('@lumbra/core');
  await addShot('p', shot, new Map());
  const row = (await database.shots.get('s'))!;
  const keys = Object.keys(row.shot);
  await fc.assert(
    fc.asyncProperty(fc.nat(), fc.jsonValue(), fc.nat(3), async (at, value, way) => {
      const changed = { ...row, shot: { ...row.shot, [keys[at % keys.length]!]: way === 0 ? undefined : value } };
      await database.shots.put(changed);
      if (way === 1) await database.edits.put({ shot: 's', at: 0, edit: { label: 'x', forward: [value] } });
      try {
        expect((await openShot('s'))!.shot.id).toBe('s');
      } catch (error) {
        expect(error).toBeInstanceOf(ShotError);
      }
      await database.edits.clear();
    }),
    { seed: 6, numRuns: 200 },
  );
});
