// @vitest-environment happy-dom
import {
  BakeRun,
  createCloth,
  createCollider,
  inputsHash,
  runInputs,
  shapeMesh,
  startPositions,
  type BakedFrame,
  type Cloth,
} from '@lumbra/core';
import { ElMessage } from 'element-plus';
import { nextTick } from 'vue';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { keepFrames, readBake } from '../storage/bakes';
import { database, type BakeRow } from '../storage/database';
import { openBench } from '../testing/openBench';
import type { LivePose } from '../workers/liveRun';
import type { BakeJob, BakeListener } from '../workers/run.worker';

/** A worker that does what a test tells it. */
const worker = vi.hoisted(() => ({
  bake: vi.fn(),
  settle: vi.fn(),
  live: vi.fn(),
  update: vi.fn(),
  checkpoint: vi.fn(),
  back: vi.fn(),
  stop: vi.fn(),
}));
vi.mock('../workers/runClient', () => ({ runWorker: () => worker }));
vi.mock('comlink', async (original) => ({ ...(await original<object>()), proxy: (one: unknown) => one }));

const SHAPE = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.1 } as const;
const things = () => [
  createCloth({ id: 'c', name: 'Cloth', shape: SHAPE, position: [0, 1, 0] }),
  createCollider({ id: 'g', name: 'Ground', shape: { kind: 'ground' } }),
];
const open = () => openBench(things(), { lastFrame: 6, run: { substeps: 4 } });

/** Bakes as the worker does, until a frame. */
async function bakeUntil(job: BakeJob, listener: BakeListener, last: number): Promise<BakeRow> {
  const run = new BakeRun(job.shot, job.assets, job.from?.checkpoint);
  const frames = [...(job.from?.frames ?? [])];
  const inputs = runInputs(job.shot, job.assets);
  const kept: BakedFrame[] = [];
  for (;;) {
    const baked = run.next();
    kept.push(baked);
    frames.push({ frame: baked.frame, stats: baked.stats });
    listener.frame(baked);
    if (baked.frame >= last) break;
  }
  const { substeps } = run;
  const account = {
    shot: job.shot.id,
    inputs,
    inputsHash: inputsHash(inputs),
    substeps,
    firstFrame: job.shot.firstFrame,
  };
  const row = { ...account, frames, checkpoint: run.checkpoint() };
  await keepFrames(row, kept);
  return row;
}

describe('the run of the open shot', () => {
  beforeEach(() => {
    vi.clearAllMocks();
    worker.bake.mockImplementation((job: BakeJob, listener: BakeListener) => bakeUntil(job, listener, job.lastFrame));
  });

  it('bakes its range, shows each frame as it comes, and is then complete', async () => {
    const { run } = await open();
    const seen: number[] = [];
    worker.bake.mockImplementation((job: BakeJob, listener: BakeListener) =>
      bakeUntil(job, { ...listener, frame: (baked) => (listener.frame(baked), seen.push(run.frame)) }, job.lastFrame),
    );
    const baking = run.startBake();
    expect(run.status).toBe('baking');
    await baking;
    expect(seen).toEqual([1, 2, 3, 4, 5, 6]);
    expect(run.status).toBe('idle');
    expect(run.progress).toBeNull();
    expect(run.complete).toBe(true);
    expect(run.bakedUntil).toBe(6);
    expect(run.currentStats!.seconds).toBeCloseTo(5 / 24, 9);
    run.goTo(3);
    expect(run.shownPositions().get('c')).toBe(run.frames.get(3)!.positions[0]);
  });

  it('goes on with a bake that was stopped, from its last frame and to the same bits', async () => {
    const { run } = await open();
    worker.bake.mockImplementationOnce((job: BakeJob, listener: BakeListener) => bakeUntil(job, listener, 3));
    await run.startBake();
    expect(run.bakedUntil).toBe(3);
    expect(run.complete).toBe(false);
    await run.startBake();
    expect((worker.bake.mock.lastCall![0] as BakeJob).from!.checkpoint.frame).toBe(3);
    const parts = run.stats.map(({ stats }) => stats.fingerprint);
    await run.dropBake();
    expect(run.bake).toBeNull();
    expect(run.frames.size).toBe(0);
    await run.startBake();
    expect(run.stats.map(({ stats }) => stats.fingerprint)).toEqual(parts);
  });

  it('is stale when something that it depends on has changed, says what, and holds again after undo', async () => {
    const { run, document } = await open();
    await run.startBake();
    document.edit('Weight', (draft) => ((draft.things[0] as Cloth).fabric.weight = 0.5));
    expect(run.stale).toBe(true);
    expect(run.complete).toBe(false);
    expect(JSON.stringify(run.changes)).toContain('weight');
    // The first frame is where the cloth starts now, not where it started then.
    run.goTo(1);
    const start = startPositions(document.shot!, document.shot!.things[0] as Cloth, document.assets);
    expect(run.shownPositions().get('c')).toEqual(start);
    document.undo();
    expect(run.stale).toBe(false);
    document.edit('Name', (draft) => (draft.things[0]!.name = 'Sail'));
    expect(run.stale).toBe(false);
    // What is stale is baked anew from the start.
    document.edit('Weight', (draft) => ((draft.things[0] as Cloth).fabric.weight = 0.5));
    await run.startBake();
    expect((worker.bake.mock.lastCall![0] as BakeJob).from).toBeUndefined();
  });

  it('keeps the frames before a run that stopped on its own, and says why it did', async () => {
    const { run } = await open();
    worker.bake.mockImplementationOnce(async (job: BakeJob, listener: BakeListener) => {
      await bakeUntil(job, listener, 4);
      throw new Error('Stopped at frame 5.');
    });
    await run.startBake();
    expect(run.status).toBe('idle');
    expect(run.bakedUntil).toBe(4);
    expect(ElMessage).toHaveBeenCalledWith(expect.objectContaining({ message: 'Stopped at frame 5.', type: 'error' }));
  });

  it('finds its bake when the shot is opened again, and lets a damaged one go with a message', async () => {
    const { run, shot } = await open();
    await run.startBake();
    await run.open();
    expect([...run.frames.keys()]).toEqual([1, 2, 3, 4, 5, 6]);
    expect(run.complete).toBe(true);
    const chunk = (await database.chunks.where('shot').equals(shot().id).first())!;
    await database.chunks.put({ ...chunk, bytes: chunk.bytes.slice(0, 40) });
    await run.open();
    expect(run.bake).toBeNull();
    expect(ElMessage).toHaveBeenCalledWith(
      expect.objectContaining({ message: expect.stringContaining('The shot itself is as it was') as string }),
    );
    expect(await readBake(shot().id)).toBeUndefined();
  });

  it('stays on the frames of the shot', async () => {
    const { run } = await open();
    for (const [wanted, got] of [
      [-5, 1],
      [2.4, 2],
      [99, 6],
    ] as const) {
      run.goTo(wanted);
      expect(run.frame).toBe(got);
    }
  });

  it('bakes nothing where another tab edits the shot, and only one thing at a time', async () => {
    const { run, document } = await open();
    document.readOnly = true;
    await run.startBake();
    expect(worker.bake).not.toHaveBeenCalled();
    document.readOnly = false;
    const baking = run.startBake();
    await Promise.all([run.startLive(), run.startSettle(), run.startBake()]);
    expect(worker.live).not.toHaveBeenCalled();
    expect(worker.settle).not.toHaveBeenCalled();
    await baking;
    expect(worker.bake).toHaveBeenCalledOnce();
  });
});

describe('poses outside the timeline', () => {
  beforeEach(() => vi.clearAllMocks());

  /** A live run that gives a pose and waits for the end of the test. */
  function givesPoses(): { give: (pose: Partial<LivePose>) => void; end: () => void } {
    let [give, end]: [(pose: LivePose) => void, () => void] = [() => undefined, () => undefined];
    worker.live.mockImplementation((_: unknown, onPose: (pose: LivePose) => void) => {
      give = onPose;
      return new Promise<void>((resolve) => (end = resolve));
    });
    const positions = [new Float32Array(shapeMesh(SHAPE, new Map()).positions.length).fill(0.25)];
    const pose = { cloths: ['c'], positions, time: 0.5, maxStretch: 0.01, checkpoints: [0] };
    return { give: (more) => give({ ...pose, ...more }), end: () => end() };
  }

  it('of a live run are shown at their own frame, with the checkpoints that there are', async () => {
    const { run } = await open();
    const poses = givesPoses();
    const live = run.startLive();
    poses.give({ checkpoints: [0, 0.25] });
    expect(run.shownFrame).toBeCloseTo(13, 9);
    expect(run.checkpoints).toEqual([0, 0.25]);
    expect(run.shownPositions().get('c')![0]).toBe(0.25);
    poses.end();
    await live;
    expect(run.status).toBe('idle');
    run.goTo(2);
    expect(run.pose).toBeNull();
    expect(run.shownFrame).toBe(2);
  });

  it('of cloth that has other points now are not shown', async () => {
    const { run, document } = await open();
    const poses = givesPoses();
    const live = run.startLive();
    poses.give({});
    document.edit('Spacing', (draft) => ((draft.things[0] as Cloth).shape = { ...SHAPE, spacing: 0.05 }));
    await nextTick();
    expect(worker.update).toHaveBeenCalledOnce();
    expect(run.shownPositions().get('c')).toHaveLength(81 * 3);
    poses.end();
    await live;
  });

  it('asks the live run for checkpoints only while there is one', async () => {
    const { run } = await open();
    await run.setCheckpoint();
    await run.toCheckpoint(true);
    expect(worker.checkpoint).not.toHaveBeenCalled();
    expect(worker.back).not.toHaveBeenCalled();
    const poses = givesPoses();
    const live = run.startLive();
    await run.setCheckpoint();
    await run.toCheckpoint(true);
    expect(worker.checkpoint).toHaveBeenCalledOnce();
    expect(worker.back).toHaveBeenCalledWith(true);
    run.stop();
    expect(worker.stop).toHaveBeenCalledOnce();
    expect(run.stopping).toBe(true);
    poses.end();
    await live;
    expect(run.stopping).toBe(false);
  });

  it('become the start of the shot as one undo', async () => {
    const { run, document, thing } = await open();
    const poses = givesPoses();
    const live = run.startLive();
    poses.give({});
    poses.end();
    await live;
    await run.startFromPose();
    const asset = thing<Cloth>('Cloth').start!;
    expect(document.assets.get(asset)!.positions.every((value) => value === 0.25)).toBe(true);
    expect(run.pose).toBeNull();
    expect(run.shownPositions().get('c')![0]).toBe(0.25);
    expect(document.undoLabel).toBe('Start from this pose');
    document.undo();
    expect(thing<Cloth>('Cloth').start).toBeNull();
  });

  it('say why a run could not be made', async () => {
    const { run } = await open();
    worker.live.mockRejectedValueOnce(new Error('There is no cloth in the run.'));
    await run.startLive();
    expect(ElMessage).toHaveBeenCalledWith(expect.objectContaining({ message: 'There is no cloth in the run.' }));
    expect(run.status).toBe('idle');
  });
});
