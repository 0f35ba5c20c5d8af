// @vitest-environment happy-dom
import {
  createCloth,
  createShot,
  FinishList,
  finishEntrySchema,
  placesShown,
  shapeMesh,
  type FinishEntry,
  type Mesh,
} from '@lumbra/core';
import { freeze } from 'immer';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { FinishWork } from '../workers/finish.worker';

/** A worker in this thread, which can be held up, and forgets what it was given. */
const worker = vi.hoisted(() => ({
  lists: new Map<string, unknown>(),
  prepared: 0,
  placed: 0,
  gate: Promise.resolve(),
}));
vi.mock('../workers/hosts', async () => {
  const { nearHosts } = await import('../testing/nearHosts');
  return nearHosts({
    finish: {
      prepare: (_: string, name: string, mesh: Mesh, entries: readonly FinishEntry[]) => {
        worker.prepared++;
        const list = new FinishList(mesh, entries);
        worker.lists.set(name, list);
        return list.mesh;
      },
      place: async ({ name, entries, places }: FinishWork) => {
        await worker.gate;
        worker.placed++;
        const list = worker.lists.get(name) as FinishList | undefined;
        return list?.place(placesShown(mesh, places), entries, () => null) ?? null;
      },
    },
  });
});

const { useFinishedStore } = await import('./finished');

const SHAPE = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.1 } as const;
const mesh = shapeMesh(SHAPE, new Map());
const step = (numbers: object) => finishEntrySchema.parse({ id: 's', step: numbers });
const shotWith = (...finish: FinishEntry[]) =>
  // As documents are: only of what is frozen the mesh is kept.
  freeze(createShot({ name: 'S', things: [createCloth({ id: 'c', name: 'Cloth', shape: SHAPE, finish })] }), true);
const THICK = shotWith(step({ kind: 'thicken', thickness: 0.01 }));

function wanted(shot = THICK, frame = 1) {
  return { shot, assets: new Map<string, Mesh>(), frame, places: new Map([['c', mesh.positions]]) };
}

describe('finished cloth', () => {
  beforeEach(() => {
    setActivePinia(createPinia());
    Object.assign(worker, { prepared: 0, placed: 0, gate: Promise.resolve() });
    worker.lists.clear();
  });

  it('is shown, prepared once for all frames, and is the simulated one where it has no list', async () => {
    const store = useFinishedStore();
    for (const frame of [1, 2, 3]) {
      store.show(wanted(THICK, frame));
      await vi.waitFor(() => expect(worker.placed).toBe(frame));
    }
    expect(worker.prepared).toBe(1);
    await vi.waitFor(() => expect(store.shown.get('c')?.positions).toHaveLength(mesh.positions.length * 2));
    store.show(wanted(shotWith()));
    await vi.waitFor(() => expect(store.shown.size).toBe(0));
  });

  it('of frames that come faster than they are done, is that of the newest', async () => {
    const store = useFinishedStore();
    let open = () => {};
    worker.gate = new Promise((resolve) => (open = resolve));
    for (let frame = 1; frame <= 20; frame++) store.show(wanted(THICK, frame));
    open();
    await vi.waitFor(() => expect(store.shown.size).toBe(1));
    expect(worker.placed).toBeLessThanOrEqual(2);
  });

  it('stays as simulated when that is asked for while it is made', async () => {
    const store = useFinishedStore();
    let open = () => {};
    worker.gate = new Promise((resolve) => (open = resolve));
    store.show(wanted());
    store.show(null);
    open();
    await vi.waitFor(() => expect(worker.placed).toBe(1));
    await new Promise((resolve) => setTimeout(resolve, 5));
    expect(store.shown.size).toBe(0);
  });

  it('is prepared again when the worker has been started anew', async () => {
    const store = useFinishedStore();
    store.show(wanted());
    await vi.waitFor(() => expect(store.shown.size).toBe(1));
    worker.lists.clear();
    store.show(wanted(THICK, 2));
    await vi.waitFor(() => expect(worker.prepared).toBe(2));
    await vi.waitFor(() => expect(worker.placed).toBe(3));
    expect(store.problems.size).toBe(0);
  });

  it('says why it cannot be made', async () => {
    const store = useFinishedStore();
    const fine = { kind: 'sheet', width: 4, height: 4, spacing: 0.01 } as const;
    const shot = createShot({
      name: 'S',
      things: [createCloth({ id: 'c', name: 'Cloth', shape: fine, finish: [step({ kind: 'subdivide', times: 3 })] })],
    });
    store.show(wanted(shot));
    await vi.waitFor(() => expect(store.problems.get('c')).toMatch(/million faces/));
    expect(store.shown.size).toBe(0);
  });
});
