// @vitest-environment happy-dom
import { createCloth, createShot } from '@lumbra/core';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { database } from '../storage/database';
import { addShot } from '../storage/shots';
import { takeShot } from '../storage/shotLock';
import { useDocumentStore } from './document';

const setWeight = (value: number) => (draft: { things: object[] }) => {
  (draft.things[0] as { fabric: { weight: number } }).fabric.weight = value;
};

describe('the open document', () => {
  beforeEach(async () => {
    setActivePinia(createPinia());
    await Promise.all([database.shots.clear(), database.histories.clear()]);
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
    const update = vi.spyOn(database.shots, 'update').mockRejectedValue(new DOMException('full', 'QuotaExceededError'));
    document.edit('Rename', (draft) => void (draft.name = 'Not kept'));
    await vi.waitFor(() => expect(document.saving).toBe('refused'), { timeout: 3000 });
    expect(document.shot!.name).toBe('Not kept');
    update.mockRestore();
  });

  it('keeps the undo list when it is closed and opened again', async () => {
    const document = useDocumentStore();
    await document.open('s');
    document.edit('Cloth, weight', setWeight(0.2));
    document.edit('Cloth, weight', setWeight(0.3));
    document.undo();
    await vi.waitFor(() => expect(document.saving).toBe('saved'), { timeout: 3000 });
    document.close();
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
    const before = document.shot;
    expect(document.edit('Cloth, weight', setWeight(0.2))).toBe(false);
    document.undo();
    expect(document.shot).toBe(before);
    await document.takeOver();
    expect(document.readOnly).toBe(false);
    expect(document.edit('Cloth, weight', setWeight(0.2))).toBe(true);
  });

  it('does not open what is not there', async () => {
    expect(await useDocumentStore().open('nothing')).toBe(false);
  });
});
