import { createCloth, createShot, type Mesh } from '@lumbra/core';
import { beforeEach, describe, expect, it } from 'vitest';
import { database } from './database';
import { eraseDeleted, listDeleted } from './deleted';
import { addProduction, copyProduction, deleteProduction, listProductions, restoreProduction } from './productions';
import { addShot, deleteShot, forgetUnused, listShots, openShot, restoreShot, saveAsset } from './shots';

const mesh: Mesh = { positions: new Float32Array(9), triangles: new Uint32Array([0, 1, 2]) };

function shot(id: string, asset?: string) {
  const shape = asset ? { kind: 'mesh' as const, asset } : { kind: 'sheet' as const };
  return createShot({ id, name: id, things: [createCloth({ id: 'c', name: 'Cloth', shape })] });
}

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
  });

  it('copies a production with shots and meshes of its own', async () => {
    const row = await addProduction('P');
    await addShot(row.id, shot('a', 'm'), new Map([['m', mesh]]));
    const copy = await copyProduction(row);
    const [copied] = await listShots(copy.id);
    expect(copied!.id).not.toBe('a');
    await database.shots.delete('a');
    expect((await openShot(copied!.id))!.assets.get('m')).toEqual(mesh);
  });

  it('forgets meshes that neither the shot nor its undo list names', async () => {
    const { id } = await addProduction('P');
    await addShot(id, shot('a', 'used'), new Map([['used', mesh]]));
    await saveAsset('a', 'undone', mesh);
    await saveAsset('a', 'unused', mesh);
    const undo = { label: 'x', forward: [], backward: [{ op: 'replace', path: ['asset'], value: 'undone' }] };
    await database.histories.put({ shot: 'a', done: [undo as never], undone: [] });
    await forgetUnused((await openShot('a'))!);
    expect([...(await openShot('a'))!.assets.keys()].sort()).toEqual(['undone', 'used']);
  });
});
