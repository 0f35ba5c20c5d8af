import { createCloth, createShot, edit, writeMask, type Edit, type Mesh, type Shot } from '@lumbra/core';
import { beforeEach, describe, expect, it } from 'vitest';
import { database } from './database';
import { eraseDeleted, listDeleted } from './deleted';
import { liftTexts, lowerTexts } from './longTexts';
import { addProduction, copyProduction, deleteProduction, listProductions, restoreProduction } from './productions';
import { addShot, deleteShot, eraseShot, forgetUnused, listShots, openShot, restoreShot } from './shots';
import { ShotChangedError, ShotGoneError, writeShot, type ShotWrite } from './writeShot';

const mesh: Mesh = { positions: new Float32Array(9), triangles: new Uint32Array([0, 1, 2]) };

function shot(id: string, asset?: string) {
  const shape = asset ? { kind: 'mesh' as const, asset } : { kind: 'sheet' as const };
  return createShot({ id, name: id, things: [createCloth({ id: 'c', name: 'Cloth', shape })] });
}

const change = (of: Shot, width: number): { shot: Shot; edit: Edit } =>
  edit(of, `Width ${width}`, (draft) => void Object.assign((draft.things[0] as { shape: object }).shape, { width }));

const write = (more: Partial<ShotWrite> & Pick<ShotWrite, 'shot'>): ShotWrite => ({
  ...{ revision: 0, edits: { first: 0, done: 0, end: 0 }, changed: [], meshes: new Map(), inputsHash: 'h' },
  ...more,
});

describe('what is kept in the browser', () => {
  beforeEach(async () => {
    await Promise.all(database.tables.map((table) => table.clear()));
  });

  it('brings a deleted shot back whole, and erases it only a day later or when told to', async () => {
    const { id } = await addProduction('P');
    await addShot(id, shot('a', 'm'), new Map([['m', mesh]]));
    await deleteShot('a');
    expect(await listShots(id)).toEqual([]);
    expect(await openShot('a')).toBeUndefined();
    await eraseDeleted();
    expect((await listDeleted()).shots.map((row) => row.id)).toEqual(['a']);
    await restoreShot('a');
    expect((await openShot('a'))!.assets.get('m')).toEqual(mesh);

    await deleteShot('a');
    await database.shots.update('a', { deleted: Date.now() - 25 * 3600 * 1000 });
    await eraseDeleted();
    expect(await database.shots.count()).toBe(0);
    expect(await database.assets.count()).toBe(0);
  });

  it('deletes a production with its shots and brings both back', async () => {
    const { id } = await addProduction('P');
    await addShot(id, shot('a'), new Map());
    await deleteProduction(id);
    expect(await listProductions()).toEqual([]);
    await restoreProduction(id);
    expect(await listShots(id)).toHaveLength(1);
    await deleteProduction(id);
    await eraseDeleted({ all: true });
    expect(await database.shots.count()).toBe(0);
    expect(await database.productions.count()).toBe(0);
  });

  it('copies a production with shots and meshes of its own', async () => {
    const row = await addProduction('P');
    await addShot(row.id, shot('a', 'm'), new Map([['m', mesh]]));
    const copy = await copyProduction(row);
    const [copied] = await listShots(copy.id);
    expect(copied!.id).not.toBe('a');
    await eraseShot('a');
    expect((await openShot(copied!.id))!.assets.get('m')).toEqual(mesh);
  });

  it('forgets meshes and texts that neither the shot, its undo list nor its takes name', async () => {
    const { id } = await addProduction('P');
    await addShot(
      id,
      shot('a', 'used'),
      new Map([
        ['used', mesh],
        ['undone', mesh],
        ['taken', mesh],
        ['unused', mesh],
      ]),
    );
    const undo = { label: 'x', forward: [], backward: [{ op: 'replace', path: ['asset'], value: 'undone' }] };
    await database.edits.put({ shot: 'a', at: 0, edit: undo });
    await database.takes.put({ id: 't', shot: 'a', document: { asset: 'taken', mask: { $text: 'kept' } } } as never);
    await database.texts.bulkPut(['kept', 'unused'].map((hash) => ({ shot: 'a', hash, text: 'x' })));
    await forgetUnused('a');
    expect([...(await openShot('a'))!.assets.keys()].sort()).toEqual(['taken', 'undone', 'used']);
    expect((await database.texts.toArray()).map(({ hash }) => hash)).toEqual(['kept']);
  });

  it('lifts long texts out and puts them back, and keeps each once', async () => {
    const values = writeMask(new Uint8Array(2000).fill(7));
    const masked = createShot({
      ...{ id: 'm', name: 'Masked' },
      things: [createCloth({ id: 'c', name: 'Cloth', masks: ['a', 'b'].map((id) => ({ id, name: id, values })) })],
    });
    const { lifted, texts } = liftTexts(masked);
    expect(texts.size).toBe(1);
    expect(JSON.stringify(lifted).length).toBeLessThan(4000);
    expect(lowerTexts(lifted, texts)).toEqual(masked);
    await addShot('p', masked, new Map());
    expect((await openShot('m'))!.shot).toEqual(masked);
    expect(await database.texts.count()).toBe(1);
  });
});

describe('writing an open shot', () => {
  beforeEach(async () => {
    await Promise.all(database.tables.map((table) => table.clear()));
    await addShot('p', shot('a'), new Map());
  });

  it('writes the document, what is new of its undo list, and new meshes, and reads them back', async () => {
    const first = change((await openShot('a'))!.shot, 2);
    const second = change(first.shot, 3);
    const changed = [first.edit, second.edit].map((one, at) => ({ at, edit: one }));
    const counts = { first: 0, done: 1, end: 2 };
    expect(await writeShot(write({ shot: first.shot, changed, edits: counts, meshes: new Map([['m', mesh]]) }))).toBe(
      1,
    );
    const opened = (await openShot('a'))!;
    expect(opened.shot).toEqual(first.shot);
    expect(opened.history.done.map(({ label }) => label)).toEqual(['Width 2']);
    expect(opened.history.undone.map(({ label }) => label)).toEqual(['Width 3']);
    expect(opened.assets.get('m')).toEqual(mesh);
    // What is beyond the counts is no longer there.
    await writeShot(write({ shot: first.shot, revision: 1, edits: { first: 1, done: 1, end: 1 } }));
    expect(await database.edits.count()).toBe(0);
  });

  it('refuses to write over what somebody else has written, or what is gone, and then writes nothing', async () => {
    const { shot: next, edit: made } = change((await openShot('a'))!.shot, 2);
    const stale = write({ shot: next, revision: 7, changed: [{ at: 0, edit: made }], meshes: new Map([['m', mesh]]) });
    await expect(writeShot(stale)).rejects.toThrow(ShotChangedError);
    expect(await database.assets.count()).toBe(0);
    expect(await database.edits.count()).toBe(0);
    await eraseShot('a');
    await expect(writeShot(write({ shot: next }))).rejects.toThrow(ShotGoneError);
    expect(await database.shots.count()).toBe(0);
  });
});
