import { createCloth, createCollider, createShot, inputsHash, runInputs, type RawDocument } from '@lumbra/core';
import { Dexie } from 'dexie';
import { beforeEach, expect, it, vi } from 'vitest';

const shot = createShot({
  ...{ id: 's', name: 'Shot' },
  things: [
    createCloth({ id: 'c', name: 'Cover', start: null }),
    createCollider({ id: 'b', name: 'Crate', contactShape: 'ball' }),
  ],
});
/** The shot and what it depends on, as version 1 wrote them. */
const old = JSON.parse(
  JSON.stringify({ document: { ...shot, version: 1 }, inputs: runInputs(shot, new Map()) }).replaceAll(
    'contactShape',
    'standIn',
  ),
) as { document: RawDocument; inputs: Record<string, string> };

beforeEach(async () => {
  await Dexie.delete('lumbra');
  vi.resetModules();
});

it('keeps takes of shots of version 1 firm', async () => {
  expect(old.inputs['b.standIn']).toBe('ball');
  const before = new Dexie('lumbra');
  before.version(4).stores({
    ...{ productions: 'id', shots: 'id, production', assets: '[shot+id], shot' },
    ...{ edits: '[shot+at], shot', texts: '[shot+hash], shot', takes: 'id, shot' },
    ...{ frames: '[take+frame], take', frameData: '[take+frame], take', checkpoints: '[take+frame], take' },
  });
  const hash = inputsHash(old.inputs);
  const row = { id: 's', production: 'p', order: 0, revision: 0, edits: { first: 0, done: 0, end: 0 }, updated: 1 };
  await before.table('shots').put({ ...row, shot: old.document, inputsHash: hash });
  const spans = [
    { first: 1, inputs: old.inputs, inputsHash: hash, substeps: 7 },
    { first: 5, inputs: { frameRate: 24 }, inputsHash: 'kept', substeps: 7 },
  ];
  await before.table('takes').put({ id: 't', shot: 's', number: 1, document: old.document, spans });
  before.close();

  const { database } = await import('../database');
  const { openShot } = await import('../shots');
  const { takenShot } = await import('../takes');
  const now = inputsHash(runInputs((await openShot('s'))!.shot, new Map()));
  const take = (await database.takes.get('t'))!;
  expect(take.spans.map(({ inputsHash: kept }) => kept)).toEqual([now, 'kept']);
  expect((await database.shots.get('s'))!.inputsHash).toBe(now);
  expect(await takenShot(take)).toEqual(shot);
});
