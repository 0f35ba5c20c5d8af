// @vitest-environment happy-dom
import { createCloth, createShot, type Shot } from '@lumbra/core';
import fc from 'fast-check';
import { createPinia, setActivePinia, type Pinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type * as documentModule from './document';
import type * as databaseModule from '../storage/database';
import type * as shotsModule from '../storage/shots';
import type * as renameModule from './renameAnywhere';
import { Locks } from '../testing/locks';

vi.unmock('../storage/shotLock');

// Two tabs in one process: each has modules of its own, and they share the storage, the locks and the channel between them.

interface Tab {
  document: ReturnType<typeof documentModule.useDocumentStore>;
  shots: typeof shotsModule;
  rename: typeof renameModule.renameAnywhere;
  database: typeof databaseModule.database;
}

async function openTab(): Promise<Tab> {
  vi.resetModules();
  const pinia: Pinia = createPinia();
  const { useDocumentStore } = (await import('./document')) as typeof documentModule;
  const shots = await import('../storage/shots');
  const { database } = await import('../storage/database');
  const { renameAnywhere } = await import('./renameAnywhere');
  setActivePinia(pinia);
  return { document: useDocumentStore(pinia), shots, database, rename: renameAnywhere };
}

const width = (shot: Shot) => (shot.things[0] as unknown as { shape: { width: number } }).shape.width;
const setWidth = (tab: Tab, value: number) =>
  tab.document.edit(
    'Width',
    (draft) => void ((draft.things[0] as unknown as { shape: { width: number } }).shape.width = value),
  );
const quiet = () => new Promise((resolve) => setTimeout(resolve, 30));

let tabs: Tab[] = [];

describe('one shot in two tabs', () => {
  beforeEach(async () => {
    vi.stubGlobal('navigator', { locks: new Locks() });
    tabs = [await openTab(), await openTab()];
    await Promise.all(tabs[0]!.database.tables.map((table) => table.clear()));
    const cloth = createCloth({ id: 'c', name: 'Cloth', shape: { kind: 'sheet', width: 1, height: 1, spacing: 0.1 } });
    await tabs[0]!.shots.addShot('p', createShot({ id: 's', name: 'Shot', things: [cloth] }), new Map());
  });
  afterEach(async () => {
    await Promise.all(tabs.map(({ document }) => document.close()));
    vi.unstubAllGlobals();
  });

  it('is given over once all is saved, and what is saved is seen by the tab that only looks', async () => {
    const [first, second] = tabs as [Tab, Tab];
    await first.document.open('s');
    await second.document.open('s');
    expect(second.document.readOnly).toBe(true);
    setWidth(first, 2);
    await first.document.flush();
    await vi.waitFor(() => expect(width(second.document.shot!)).toBe(2));
    // Right after an edit, before it can be saved.
    setWidth(first, 3);
    await second.document.takeOver();
    expect(second.document.readOnly).toBe(false);
    expect(width(second.document.shot!)).toBe(3);
    await vi.waitFor(() => expect(first.document.readOnly).toBe(true));
    expect(setWidth(first, 4)).toBe(false);
    second.document.undo();
    await second.document.flush();
    await vi.waitFor(() => expect(width(first.document.shot!)).toBe(2));
  });

  it('is not given over by a tab that cannot save, unless it is asked for twice', async () => {
    const [first, second] = tabs as [Tab, Tab];
    await first.document.open('s');
    await second.document.open('s');
    const put = vi.spyOn(first.database.shots, 'put').mockRejectedValue(new DOMException('', 'QuotaExceededError'));
    setWidth(first, 2);
    await vi.waitFor(() => expect(first.document.saving).toBe('refused'));
    await second.document.takeOver();
    expect(second.document.readOnly).toBe(true);
    expect(second.document.takesAnyway).toBe(true);
    expect(first.document.readOnly).toBe(false);
    await second.document.takeOver();
    expect(second.document.readOnly).toBe(false);
    expect(width(second.document.shot!)).toBe(1);
    await vi.waitFor(() => expect(first.document.saving).toBe('lost'));
    put.mockRestore();
    expect(await first.document.flush()).toBe(false);
    expect(width((await second.shots.openShot('s'))!.shot)).toBe(1);
  });

  it('is renamed from home by the tab that has it open', async () => {
    const [first, home] = tabs as [Tab, Tab];
    await first.document.open('s');
    setWidth(first, 2);
    await home.rename('s', { name: 'Bow', code: 'B' });
    expect(first.document.shot!.name).toBe('Bow');
    await first.document.flush();
    const kept = (await home.shots.openShot('s'))!.shot;
    expect([kept.name, width(kept)]).toEqual(['Bow', 2]);
    first.document.undo();
    expect(first.document.shot!.name).toBe('Shot');
  });

  it('is always what one of them says is saved, whatever is done in either', { timeout: 120_000 }, async () => {
    const act = fc.record({ tab: fc.nat(1), kind: fc.nat(7), value: fc.integer({ min: 1, max: 50 }) });
    const runs = fc.sample(fc.array(act, { minLength: 100, maxLength: 100 }), { numRuns: 1, seed: 20 });
    for (const acts of runs) {
      for (const tab of tabs) await tab.document.open('s');
      for (const [step, { tab: which, kind, value }] of acts.entries()) {
        const { document } = tabs[which]!;
        if (kind < 3) setWidth(tabs[which]!, value);
        else if (kind === 3) document.undo();
        else if (kind === 4) document.redo();
        else if (kind === 5) document.goToEdit(value % 5);
        else if (kind === 6) await document.takeOver();
        else {
          await document.close();
          await document.open('s');
        }
        if (step % 5 !== 4) continue;
        await Promise.all(tabs.map((tab) => tab.document.flush()));
        await quiet();
        const kept = (await tabs[0]!.shots.openShot('s'))!;
        const claims = tabs.filter((tab) => tab.document.saving === 'saved');
        expect(claims.length).toBeGreaterThan(0);
        // Every tab that says “saved” shows what is kept, with its undo list.
        for (const claim of claims) expect(claim.document.shot).toEqual(kept.shot);
        expect(tabs.filter((tab) => !tab.document.readOnly)).toHaveLength(1);
        const editor = tabs.find((tab) => !tab.document.readOnly)!;
        expect(editor.document.done.map(({ label }) => label)).toEqual(kept.history.done.map(({ label }) => label));
        expect(editor.document.undone).toHaveLength(kept.history.undone.length);
      }
    }
  });
});
