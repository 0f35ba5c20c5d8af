// @vitest-environment happy-dom
import { createCloth, createCollider, type Cloth, type Shot } from '@lumbra/core';
import { checkShot, mendFinding, type CheckContext, type CheckFinding } from '@lumbra/core/checks';
import { ElMessage } from 'element-plus/es/components/message/index.mjs';
import { nextTick } from 'vue';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openBench } from '../testing/openBench';
import type { SentShot } from '../jobs/sentShots';
import { useChecksStore } from './checks';

const worker = vi.hoisted(() => ({ check: vi.fn(), mend: vi.fn() }));
vi.mock('../workers/hosts', async () => (await import('../testing/nearHosts')).nearHosts({ checks: worker }));

const SHAPE = { kind: 'sheet', width: 0.8, height: 0.8, spacing: 0.04 } as const;
const sheet = () => createCloth({ id: 'c', name: 'Sheet', shape: SHAPE, position: [0, 1, 0] });
const ground = () => createCollider({ id: 'g', name: 'Ground', shape: { kind: 'ground' } });

/** Waits out the pause that checks take after a change, and all that comes of it. */
const later = async (ms = 400) => {
  await nextTick();
  await vi.advanceTimersByTimeAsync(ms);
};

describe('the checks of the open shot', () => {
  beforeEach(() => {
    vi.clearAllMocks();
    worker.check.mockImplementation(
      ({ shot, meshes: assets }: SentShot, besides: Pick<CheckContext, 'bake' | 'bytesFree'>) =>
        Promise.resolve(checkShot(structuredClone(shot) as Shot, assets, besides)),
    );
    worker.mend.mockImplementation(({ shot, meshes: assets }: SentShot, finding: CheckFinding) =>
      Promise.resolve(mendFinding(shot, assets, finding)),
    );
  });
  afterEach(() => vi.useRealTimers());

  async function open(...things: Parameters<typeof openBench>[0]) {
    const bench = await openBench(things, { run: { quality: 'draft' } });
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
    const checks = useChecksStore();
    await later();
    return { ...bench, checks };
  }

  it('are made when it is opened and a while after each change, once for many', async () => {
    const { checks, document } = await open(sheet(), ground());
    expect(checks.findings).toEqual([]);
    expect(worker.check).toHaveBeenCalledOnce();
    for (const height of [0.9, 0.8, 0.7]) {
      document.edit('Move', (draft) => (draft.things[0]!.position[1] = height));
      await later(100);
    }
    expect(worker.check).toHaveBeenCalledOnce();
    await later();
    expect(worker.check).toHaveBeenCalledTimes(2);
  });

  it('find what is wrong, say at which station, and mend it as one undo', async () => {
    const { checks, document, shot } = await open(sheet());
    expect(checks.grave.map(({ check }) => check)).toEqual(['nothing-below']);
    expect([...checks.stations]).toEqual(['hold']);
    await checks.mend(checks.grave[0]!);
    expect(shot().things.map(({ name }) => name)).toEqual(['Sheet', 'Ground']);
    await later();
    expect(checks.findings).toEqual([]);
    document.undo();
    expect(shot().things).toHaveLength(1);
    await later();
    expect(checks.grave).toHaveLength(1);
  });

  it('wait while something runs, which has the machine', async () => {
    const { document, run } = await open(sheet(), ground());
    run.status = 'baking';
    document.edit('Weight', (draft) => ((draft.things[0] as Cloth).fabric.weight = 0.4));
    await later(2000);
    expect(worker.check).toHaveBeenCalledOnce();
    run.status = 'idle';
    await later();
    expect(worker.check).toHaveBeenCalledTimes(2);
  });

  it('look again when the shot was changed while they looked', async () => {
    const { checks, document } = await open(sheet(), ground());
    let answer: (found: CheckFinding[]) => void = () => undefined;
    worker.check.mockImplementationOnce(() => new Promise((resolve) => (answer = resolve)));
    document.edit('Weight', (draft) => ((draft.things[0] as Cloth).fabric.weight = 0.4));
    await later();
    document.edit('Delete', (draft) => void draft.things.pop());
    await later();
    expect(worker.check).toHaveBeenCalledTimes(2);
    answer([]);
    await later();
    expect(worker.check).toHaveBeenCalledTimes(3);
    expect(checks.grave.map(({ check }) => check)).toEqual(['nothing-below']);
  });

  it('change nothing when something cannot be mended, and say so', async () => {
    const { checks, document } = await open(sheet());
    worker.mend.mockRejectedValueOnce(new Error('It is no longer so.'));
    await checks.mend(checks.grave[0]!);
    expect(document.done).toEqual([]);
    expect(ElMessage).toHaveBeenCalledWith(
      expect.objectContaining({ message: 'It could not be mended; nothing was changed. It is no longer so.' }),
    );
    document.readOnly = true;
    await checks.mend(checks.grave[0]!);
    expect(worker.mend).toHaveBeenCalledOnce();
  });

  it('mend the shot that there is: a remedy for one that was changed meanwhile is made anew', async () => {
    const { checks, document, shot } = await open(sheet());
    worker.mend.mockImplementationOnce(async ({ shot: old, meshes }: SentShot, finding: CheckFinding) => {
      const made = await mendFinding(structuredClone(old), meshes, finding);
      // Something is taken away while it is made, so that its patches would fall beside.
      document.edit('Delete', (draft) => void draft.things.pop());
      document.edit('Add', (draft) => void draft.things.push(createCollider({ id: 'b', name: 'Box' }), sheet()));
      return made;
    });
    await checks.mend(checks.grave[0]!);
    expect(worker.mend).toHaveBeenCalledTimes(2);
    expect(shot().things.map(({ name }) => name)).toEqual(['Box', 'Sheet', 'Ground']);
  });

  it('lead to the takes where room has to be freed', async () => {
    const { checks, selection } = await open(sheet(), ground());
    const finding = {
      check: 'no-room',
      thing: null,
      station: 'run',
      grave: true,
      text: '',
      remedy: 'Free room',
    } as const;
    await checks.mend({ ...finding, act: 'free room' });
    expect(selection.station).toBe('run');
    expect(worker.mend).not.toHaveBeenCalled();
  });
});
