// @vitest-environment happy-dom
import { createCloth, createShot } from '@lumbra/core';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { database } from '../storage/database';
import { addShot, eraseShot, openShot, renameShot } from '../storage/shots';
import { takeShot } from '../storage/shotLock';
import { useDocumentStore } from './document';

const setWeight = (value: number) => (draft: { things: object[] }) => {
  (draft.things[0] as { fabric: { weight: number } }).fabric.weight = value;
};

describe('the open document', () => {
  beforeEach(async () => {
    setActivePinia(createPinia());
    await Promise.all(database.tables.map((table) => table.clear()));
    await addShot(
      'p',
      createShot({ id: 's', name: 'Shot', things: [createCloth({ id: 'c', name: 'Cloth' })] }),
      new Map(),
    );
  });

  // A save that is under way would end up in the next test.
  afterEach(() => vi.waitFor(() => expect(useDocumentStore().saving).not.toBe('waiting'), { timeout: 3000 }));

  it('joins the edits of one drag into one undo', async () => {
    const document = useDocumentStore();
    expect(await document.open('s')).toBe(true);
    const start = document.shot;
    for (const value of [0.2, 0.3, 0.4]) document.edit('Cloth, weight', setWeight(value), 'c.weight');
    document.endMerge();
    document.edit('Cloth, weight', setWeight(0.5), 'c.weight');
    expect(document.done).toHaveLength(2);
    document.undo();
    expect((document.shot!.things[0] as { fabric: { weight: number } }).fabric.weight).toBe(0.4);
    document.undo();
    expect(document.shot).toEqual(start);
    expect(document.undoLabel).toBeUndefined();
    document.redo();
    document.redo();
    expect((document.shot!.things[0] as { fabric: { weight: number } }).fabric.weight).toBe(0.5);
  });

  it('keeps nothing of a drag that came back to where it began', async () => {
    const document = useDocumentStore();
    await document.open('s');
    document.edit('Cloth, weight', setWeight(0.2), 'before');
    document.endMerge();
    const start = document.shot;
    for (const value of [0.3, 0.4, 0.2]) document.edit('Cloth, weight', setWeight(value), 'c.weight');
    document.endMerge();
    expect(document.done).toHaveLength(1);
    expect(document.shot).toEqual(start);
    document.edit('Cloth, weight', setWeight(0.3), 'c.weight');
    document.endMerge();
    expect(document.done).toHaveLength(2);
  });

  it('gives up a drag as if it had not been, and only that one', async () => {
    const document = useDocumentStore();
    await document.open('s');
    document.edit('Cloth, weight', setWeight(0.2));
    const start = document.shot;
    for (const value of [0.3, 0.4]) document.edit('Cloth, weight', setWeight(value), 'c.weight');
    document.giveUp('other');
    expect(document.done).toHaveLength(2);
    document.giveUp('c.weight');
    expect(document.shot).toEqual(start);
    expect(document.done).toHaveLength(1);
    expect(document.redoLabel).toBeUndefined();
    // It is over: giving up once more takes nothing else back.
    document.giveUp('c.weight');
    expect(document.done).toHaveLength(1);
  });

  it('refuses an impossible edit and keeps the history', async () => {
    const document = useDocumentStore();
    await document.open('s');
    expect(document.edit('Bad', setWeight(-3))).toBe(false);
    expect(document.done).toHaveLength(0);
    expect(document.shot!.things).toHaveLength(1);
  });

  it('saves every change in the browser', async () => {
    const document = useDocumentStore();
    await document.open('s');
    document.edit('Rename', (draft) => void (draft.name = 'Kept'));
    expect(document.saving).toBe('waiting');
    await vi.waitFor(() => expect(document.saving).toBe('saved'), { timeout: 3000 });
    expect((await database.shots.get('s'))?.shot.name).toBe('Kept');
  });

  it('says so when the browser refuses, and keeps what is open', async () => {
    const document = useDocumentStore();
    await document.open('s');
    const put = vi.spyOn(database.shots, 'put').mockRejectedValue(new DOMException('full', 'QuotaExceededError'));
    document.edit('Rename', (draft) => void (draft.name = 'Kept late'));
    await vi.waitFor(() => expect(document.saving).toBe('refused'), { timeout: 3000 });
    expect(document.shot!.name).toBe('Kept late');
    expect(await document.flush()).toBe(false);
    // As soon as there is room, all of it is kept.
    put.mockRestore();
    expect(await document.flush()).toBe(true);
    expect((await openShot('s'))!.history.done.map(({ label }) => label)).toEqual(['Rename']);
  });

  it('tries again by itself after a refusal', async () => {
    const document = useDocumentStore();
    await document.open('s');
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
    const put = vi.spyOn(database.shots, 'put').mockRejectedValueOnce(new Error('busy'));
    document.edit('Rename', (draft) => void (draft.name = 'Kept later'));
    await vi.waitFor(() => expect(document.saving).toBe('refused'));
    vi.advanceTimersByTime(3000);
    vi.useRealTimers();
    await vi.waitFor(() => expect(document.saving).toBe('saved'));
    expect((await database.shots.get('s'))!.shot.name).toBe('Kept later');
    put.mockRestore();
  });

  it('saves what is changed while a save is under way, and says so only then', async () => {
    const document = useDocumentStore();
    await document.open('s');
    const states: string[] = [];
    for (const weight of [0.2, 0.3, 0.4]) {
      document.edit('Cloth, weight', setWeight(weight));
      await new Promise((resolve) => setTimeout(resolve, 1));
      const row = await database.shots.get('s');
      const kept = (row!.shot['things'] as { fabric: { weight: number } }[])[0]!.fabric.weight;
      if (document.saving === 'saved') states.push(`${kept}=${weight}`);
    }
    await document.flush();
    expect(document.saving).toBe('saved');
    for (const state of states) expect(state.split('=')[0]).toBe(state.split('=')[1]);
    expect((await openShot('s'))!.history.done).toHaveLength(3);
  });

  it('does not say that it is saved when it was erased elsewhere, and can be kept as a new shot', async () => {
    const document = useDocumentStore();
    await document.open('s');
    await eraseShot('s');
    document.edit('Rename', (draft) => void (draft.name = 'Alone'));
    await vi.waitFor(() => expect(document.saving).toBe('lost'));
    expect(await database.shots.count()).toBe(0);
    expect(document.edit('Again', (draft) => void (draft.name = 'Nowhere'))).toBe(false);
    expect(await document.keepAsNew('n')).toBe('n');
    expect((await openShot('n'))!.shot.name).toBe('Alone, kept');
  });

  it('never writes over what somebody else has written', async () => {
    const document = useDocumentStore();
    await document.open('s');
    await renameShot('s', { name: 'Named elsewhere', code: '' });
    document.edit('Cloth, weight', setWeight(0.2));
    await vi.waitFor(() => expect(document.saving).toBe('lost'));
    expect((await openShot('s'))!.shot.name).toBe('Named elsewhere');
  });

  it('keeps a mesh with the edit that names it, or neither', async () => {
    const document = useDocumentStore();
    await document.open('s');
    const put = vi.spyOn(database.shots, 'put').mockRejectedValue(new Error('busy'));
    const mesh = document.addMesh({ positions: new Float32Array(9), triangles: new Uint32Array([0, 1, 2]) });
    expect(document.addMesh({ positions: new Float32Array(9), triangles: new Uint32Array([0, 1, 2]) })).toBe(mesh);
    const shape = { kind: 'mesh' as const, asset: mesh };
    document.edit('Shape', (draft) => void Object.assign(draft.things[0]!, { shape }));
    await vi.waitFor(() => expect(document.saving).toBe('refused'));
    expect(await database.assets.count()).toBe(0);
    put.mockRestore();
    await document.flush();
    expect([...(await openShot('s'))!.assets.keys()]).toEqual([mesh]);
  });

  it('saves before it is closed, and ignores what was asked for before it was left', async () => {
    const document = useDocumentStore();
    await document.open('s');
    const visit = document.visitNow();
    document.edit('Rename', (draft) => void (draft.name = 'Last word'));
    await document.close();
    expect((await database.shots.get('s'))!.shot.name).toBe('Last word');
    expect(document.visitNow()).not.toBe(visit);
    // Two that are opened at once: only the last one is.
    await addShot('p', createShot({ id: 't', name: 'Other' }), new Map());
    expect(await Promise.all([document.open('s'), document.open('t')])).toEqual([false, true]);
    expect(document.shot!.id).toBe('t');
  });

  it('costs the same to write after many edits: one row for each', async () => {
    const document = useDocumentStore();
    await document.open('s');
    for (let n = 0; n < 40; n++) document.edit('Cloth, weight', setWeight(0.1 + n / 1000));
    await document.flush();
    const put = vi.spyOn(database.edits, 'bulkPut');
    document.edit('Cloth, weight', setWeight(0.5));
    await document.flush();
    expect(put.mock.calls.map(([rows]) => (rows as unknown[]).length)).toEqual([1]);
    document.undo();
    await document.flush();
    expect(put.mock.calls.map(([rows]) => (rows as unknown[]).length)).toEqual([1, 0]);
    put.mockRestore();
    expect((await openShot('s'))!.history).toMatchObject({ first: 0 });
    expect((await openShot('s'))!.history.undone).toHaveLength(1);
  });

  it('keeps the undo list when it is closed and opened again', async () => {
    const document = useDocumentStore();
    await document.open('s');
    document.edit('Cloth, weight', setWeight(0.2));
    document.edit('Cloth, weight', setWeight(0.3));
    document.undo();
    await vi.waitFor(() => expect(document.saving).toBe('saved'), { timeout: 3000 });
    await document.close();
    setActivePinia(createPinia());
    const again = useDocumentStore();
    await again.open('s');
    expect(again.undoLabel).toBe('Cloth, weight');
    again.redo();
    expect((again.shot!.things[0] as { fabric: { weight: number } }).fabric.weight).toBe(0.3);
    again.goToEdit(0);
    expect(again.done).toHaveLength(0);
    expect(again.undone).toHaveLength(2);
  });

  it('changes nothing while another tab has the shot', async () => {
    const document = useDocumentStore();
    vi.mocked(takeShot).mockResolvedValueOnce(null);
    await document.open('s');
    expect(document.readOnly).toBe(true);
    // Also by the list of the history, which has somewhere to go back to.
    document.done = [{ label: 'x', forward: [], backward: [] }];
    document.goToEdit(0);
    expect(document.done).toHaveLength(1);
    document.done = [];
    const before = document.shot;
    expect(document.edit('Cloth, weight', setWeight(0.2))).toBe(false);
    document.undo();
    expect(document.shot).toBe(before);
    await document.takeOver();
    expect(document.readOnly).toBe(false);
    expect(document.edit('Cloth, weight', setWeight(0.2))).toBe(true);
  });

  it('keeps from where it is looked at without an undo step, and makes no take stale by it', async () => {
    const document = useDocumentStore();
    await document.open('s');
    const { hash } = document;
    document.edit('Cloth, weight', setWeight(0.2), 'c.weight');
    const changed = document.hash;
    document.keepCamera({ position: [1.00001, 2, 3], target: [0, 0.5, 0] });
    expect([document.done.length, document.hash]).toEqual([1, changed]);
    // A drag that goes on, and undo, leave the view where it is.
    document.edit('Cloth, weight', setWeight(0.3), 'c.weight');
    document.undo();
    expect(document.hash).toBe(hash);
    expect(document.shot!.camera.position).toEqual([1, 2, 3]);
    await document.flush();
    expect((await openShot('s'))!.shot.camera.position).toEqual([1, 2, 3]);
    // Whoever may not edit keeps nothing, nor a view that is left after the shot was closed: another tab may have it then.
    document.readOnly = true;
    document.keepCamera({ position: [9, 9, 9], target: [0, 0, 0] });
    expect(document.shot!.camera.position).toEqual([1, 2, 3]);
    document.readOnly = false;
    await document.close();
    document.keepCamera({ position: [9, 9, 9], target: [0, 0, 0] });
    await document.flush();
    expect((await openShot('s'))!.shot.camera.position).toEqual([1, 2, 3]);
  });

  it('does not open what is not there', async () => {
    expect(await useDocumentStore().open('nothing')).toBe(false);
  });
});
