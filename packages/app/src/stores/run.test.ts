// @vitest-environment happy-dom
import {
  createCloth,
  createCollider,
  frameFingerprint,
  shapeMesh,
  startPositions,
  type BakedFrame,
  type Cloth,
  type FrameStats,
  type Mesh,
  type Shot,
} from '@lumbra/core';
import { ElMessage } from 'element-plus/es/components/message/index.mjs';
import { nextTick } from 'vue';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { ReceivedShots, type SentShot } from '../jobs/sentShots';
import { isRaised, type StopFlag } from '../jobs/stopFlag';
import { addShot } from '../storage/shots';
import { database, type TakeRow } from '../storage/database';
import { openBench } from '../testing/openBench';
import { bakeTake, type BakeEvents } from '../workers/bakeJob';
import type { LivePose } from '../workers/liveRun';
import type { BakeListener, BakeRequest, PoseListener } from '../workers/run.worker';
import { useNoticeStore } from './notice';
import { useTakesStore } from './takes';
import { useUndoStore } from './undo';

/** A worker that does what a test tells it. */
const worker = vi.hoisted(() => ({
  bake: vi.fn(),
  settle: vi.fn(),
  live: vi.fn(),
  update: vi.fn(),
  checkpoint: vi.fn(),
  back: vi.fn(),
  still: vi.fn(),
  stop: vi.fn(),
}));
vi.mock('../workers/hosts', async () => (await import('../testing/nearHosts')).nearHosts({ run: worker }));
vi.mock('comlink', async (original) => ({ ...(await original<object>()), proxy: (one: unknown) => one }));

const SHAPE = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.1 } as const;
const things = () => [
  createCloth({ id: 'c', name: 'Cloth', shape: SHAPE, position: [0, 1, 0] }),
  createCollider({ id: 'g', name: 'Ground', shape: { kind: 'ground' } }),
];
const open = async (lastFrame = 6) => {
  const bench = await openBench(things(), { lastFrame, run: { substeps: 4 } });
  const takes = useTakesStore();
  await bench.run.open();
  return { ...bench, takes };
};

/** What a copy across threads would be. */
function copied({ shot, uses, meshes }: SentShot): { shot: Shot; assets: Map<string, Mesh> } {
  return new ReceivedShots().receive(structuredClone({ shot, uses, meshes }));
}

/** Bakes as the worker does, until it is told to stop, or until a frame. */
async function bake({ sent, stop, plan }: BakeRequest, listener: BakeListener, until = Infinity): Promise<void> {
  let at = 0;
  const events: BakeEvents = {
    ...listener,
    frame: (frame) => {
      at = frame.frame;
      listener.frame(frame);
    },
  };
  const origin = plan.origin && { ...plan.origin, ...copied(plan.origin.sent) };
  try {
    const unkept = await bakeTake(copied(sent), { ...plan, origin }, events, () => isRaised(stop) || at >= until);
    listener.ended(unkept);
  } catch (error) {
    listener.failed((error as Error).message);
  }
}
/** A call of the worker is answered at once; what it tells comes later. */
const called = (work: unknown) => {
  void work;
  return Promise.resolve();
};
const bakeUntil = (last: number) => (request: BakeRequest, listener: BakeListener) =>
  called(bake(request, listener, last));
const planned = () => (worker.bake.mock.lastCall![0] as BakeRequest).plan;
const heavier = (document: { edit: (label: string, recipe: (draft: Shot) => void) => boolean }, weight = 0.5) =>
  document.edit('Weight', (draft) => ((draft.things[0] as Cloth).fabric.weight = weight));
const said = (words: string) =>
  expect(ElMessage).toHaveBeenCalledWith(
    expect.objectContaining({ message: expect.stringContaining(words) as string }),
  );

describe('the bakes of the open shot', () => {
  beforeEach(() => {
    vi.clearAllMocks();
    worker.bake.mockImplementation((request: BakeRequest, listener: BakeListener) => called(bake(request, listener)));
    worker.stop.mockResolvedValue(undefined);
  });

  it('show each frame as it comes, and how far they are, and are then complete and kept', async () => {
    const { run, takes } = await open();
    const seen: unknown[] = [];
    worker.bake.mockImplementation((request: BakeRequest, listener: BakeListener) => {
      const frame = (baked: Parameters<BakeEvents['frame']>[0]) => {
        listener.frame(baked);
        seen.push([
          run.frame,
          takes.account.length,
          run.progress!.done,
          run.progress!.of,
          takes.thread.firm.at(-1)!.to,
        ]);
      };
      return called(bake(request, { ...listener, frame }));
    });
    const baking = run.startBake();
    expect(run.status).toBe('baking');
    expect(run.progress!.frame).toBeNull();
    await baking;
    expect(seen).toEqual([1, 2, 3, 4, 5, 6].map((n) => [n, n, n, 6, n]));
    expect(run.status).toBe('idle');
    expect(run.progress).toBeNull();
    expect(takes.complete).toBe(true);
    expect(takes.unkept).toEqual([]);
    expect(await database.frameData.where('take').equals(takes.take!.id).count()).toBe(6);
    expect(run.currentStats!.seconds).toBeCloseTo(5 / 24, 9);
    run.goTo(3);
    expect(run.shownPositions().get('c')).toBe(takes.positionsAt(3)![0]);
    // There is nothing left to bake.
    await run.startBake();
    expect(worker.bake).toHaveBeenCalledOnce();
  });

  it('go on where they were stopped, to the same bits', async () => {
    const { run, takes } = await open();
    worker.bake.mockImplementationOnce(bakeUntil(3));
    await run.startBake();
    expect(takes.bakedUntil).toBe(3);
    expect(takes.complete).toBe(false);
    await run.startBake();
    expect(planned().wanted).toEqual([4, 5, 6]);
    expect(takes.list).toHaveLength(1);
    const parts = takes.account.map(({ stats }) => stats.fingerprint);
    await takes.remove(takes.take!);
    await run.startBake();
    expect(takes.account.map(({ stats }) => stats.fingerprint)).toEqual(parts);
  });

  it('are never written over: when the shot has changed, a new take is begun, and the old one can be taken up again', async () => {
    const { run, document, takes, thing } = await open();
    await run.startBake();
    const first = takes.take!;
    const fingerprints = takes.account.map(({ stats }) => stats.fingerprint);
    heavier(document);
    expect(takes.stale).toBe(true);
    expect(JSON.stringify(takes.changes)).toContain('weight');
    expect(takes.thread.firm).toEqual([]);
    // The first frame is where the cloth starts now, not where it started then.
    run.goTo(1);
    const start = startPositions(document.shot!, document.shot!.things[0] as Cloth, document.assets);
    expect(run.shownPositions().get('c')).toEqual(start);
    await run.startBake();
    expect(takes.list.map(({ number }) => number)).toEqual([2, 1]);
    expect(takes.take!.number).toBe(2);
    expect(takes.account.map(({ stats }) => stats.fingerprint)).not.toEqual(fingerprints);

    document.edit('Rename', (draft) => void (draft.name = 'Renamed'));
    expect(await takes.takeUp(first)).toBe(true);
    expect(thing<Cloth>('Cloth').fabric.weight).not.toBe(0.5);
    expect(document.shot!.name).toBe('Renamed');
    expect(takes.take!.id).toBe(first.id);
    expect(takes.stale).toBe(false);
    expect(takes.complete).toBe(true);
    expect(takes.account.map(({ stats }) => stats.fingerprint)).toEqual(fingerprints);
    document.undo();
    expect(thing<Cloth>('Cloth').fabric.weight).toBe(0.5);
    document.redo();
    expect(takes.stale).toBe(false);
  });

  it('go on from an earlier frame with the shot as it is now, as a take of their own', async () => {
    const { run, document, takes } = await open();
    await run.startBake();
    const before = takes.account.map(({ stats }) => stats.fingerprint);
    heavier(document);
    await run.startBake(4);
    expect(planned().wanted).toEqual([5, 6]);
    expect(takes.take).toMatchObject({ number: 2, from: { number: 1, frame: 4 } });
    const after = takes.account.map(({ stats }) => stats.fingerprint);
    expect(after.slice(0, 4)).toEqual(before.slice(0, 4));
    expect(after.slice(4)).not.toEqual(before.slice(4));
    // What was baked with other numbers is stitched, what was baked with these is firm.
    expect(takes.thread).toMatchObject({ stale: [{ from: 1, to: 4 }], firm: [{ from: 5, to: 6 }] });
    expect(takes.complete).toBe(true);
    const lost = await database.frames.where('take').equals(takes.list.at(-1)!.id).count();
    expect(lost).toBe(6);

    // What it goes on from is never taken from another document: without it, it is said.
    const boundary = await database.checkpoints.where('take').equals(takes.take!.id).toArray();
    await database.checkpoints.where('take').equals(takes.take!.id).delete();
    await database.frameData.delete([takes.take!.id, 6]);
    await takes.refresh();
    await run.startBake();
    said('what was kept of the cloth there is missing');
    await database.checkpoints.bulkPut(boundary);
    await run.startBake();
    expect(takes.account.map(({ stats }) => stats.fingerprint)).toEqual(after);

    // With nothing changed it comes to the same end.
    document.undo();
    await takes.lookAt(takes.list.at(-1)!);
    await run.startBake(2);
    expect(takes.account.map(({ stats }) => stats.fingerprint)).toEqual(before);
    expect(takes.take!.spans).toHaveLength(1);
  });

  it('are cut, deleted and renamed, and all of it is undone in order', async () => {
    const { run, takes, document } = await open();
    const undoing = useUndoStore();
    await run.startBake();
    const row = () => takes.list[0]!;
    await takes.say(row(), { name: 'Good one', note: 'heavy' }, 'Name Take 1');
    await takes.cutAfter(row(), 3);
    expect(takes.bakedUntil).toBe(3);
    expect(undoing.undoLabel).toBe('Cut Good one after frame 3');
    await takes.remove(row());
    expect(takes.list).toEqual([]);
    expect(takes.take).toBeNull();
    undoing.undo();
    await vi.waitFor(() => expect(takes.bakedUntil).toBe(3));
    undoing.undo();
    await vi.waitFor(() => expect(takes.bakedUntil).toBe(6));
    undoing.undo();
    await vi.waitFor(() => expect(takes.list[0]).toMatchObject({ name: '', note: '' }));
    undoing.redo();
    await vi.waitFor(() => expect(takes.list[0]).toMatchObject({ name: 'Good one', note: 'heavy' }));
    // An edit made after it is undone first.
    heavier(document);
    expect(undoing.undoLabel).toBe('Weight');
    undoing.undo();
    expect(undoing.undoLabel).toBe('Name Take 1');
  });

  it('are undone in their order also when the undo is pressed before the act is done', async () => {
    const { run, takes, document } = await open();
    const undoing = useUndoStore();
    heavier(document);
    await run.startBake();
    void takes.remove(takes.list[0]!);
    expect(undoing.undoLabel).toBe('Delete Take 1');
    undoing.undo();
    await vi.waitFor(() => expect(takes.take).not.toBeNull());
    expect(takes.list).toHaveLength(1);
    expect(document.done.map(({ label }) => label)).toEqual(['Weight']);
  });

  it('go on after a cut as if they had been stopped there', async () => {
    const { run, takes } = await open();
    await run.startBake();
    const whole = takes.account.map(({ stats }) => stats.fingerprint);
    await takes.cutAfter(takes.take!, 2);
    expect(takes.complete).toBe(false);
    await run.startBake();
    expect(planned().wanted).toEqual([3, 4, 5, 6]);
    expect(takes.account.map(({ stats }) => stats.fingerprint)).toEqual(whole);
    expect(takes.take!.cut).toBeUndefined();
  });

  it('keep the frames before a run that stopped on its own, and say why it did', async () => {
    const { run, takes } = await open();
    worker.bake.mockImplementationOnce((request: BakeRequest, listener: BakeListener) => {
      const failed = () => listener.failed('Stopped at frame 5.');
      return called(bake(request, { ...listener, ended: failed }, 4));
    });
    await run.startBake();
    expect(run.status).toBe('idle');
    expect(takes.bakedUntil).toBe(4);
    expect(takes.unkept).toEqual([]);
    said('Stopped at frame 5.');
  });

  it('keep in memory what the browser refuses, say so, and keep it once there is room', async () => {
    const { run, takes, document } = await open();
    const put = vi.spyOn(database.frameData, 'bulkPut').mockRejectedValue(new DOMException('', 'QuotaExceededError'));
    await run.startBake();
    expect(run.refused).toBe(true);
    expect(takes.unkept).toHaveLength(6);
    said('no room left');
    // Another take is not looked at, nor begun, at their cost.
    const kept = takes.take!;
    await takes.lookAt({ ...kept, id: 'other' });
    expect(takes.take!.id).toBe(kept.id);
    heavier(document);
    await run.startBake();
    expect(worker.bake).toHaveBeenCalledOnce();
    document.undo();
    said('only in memory');
    // They can be looked at and handed off all the same.
    expect(takes.positionsAt(2)).toBeDefined();
    expect(takes.complete).toBe(true);
    put.mockRestore();
    expect(await takes.keepAgain()).toBe(true);
    expect(takes.unkept).toEqual([]);
    expect(await database.frameData.where('take').equals(takes.take!.id).count()).toBe(6);
  });

  it('are found when the shot is opened again; a frame that was damaged is a hole, and is baked again to the same bits', async () => {
    const { run, takes } = await open();
    await run.startBake();
    const before = takes.account.map(({ stats }) => stats.fingerprint);
    const key: [string, number] = [takes.take!.id, 3];
    await database.frameData.update(key, { data: (await database.frameData.get(key))!.data.slice(0, 40) });
    await run.open();
    expect(takes.complete).toBe(true);
    for (const frame of [1, 2, 3, 4, 5, 6]) await takes.read(frame);
    expect([...takes.holes]).toEqual([3]);
    said('shown as a hole');
    expect(takes.thread).toMatchObject({
      holes: [{ from: 3, to: 3 }],
      firm: [
        { from: 1, to: 2 },
        { from: 4, to: 6 },
      ],
    });
    expect(run.shownPositions().size).toBe(1);
    await run.startBake();
    expect(planned().wanted).toEqual([3]);
    expect(takes.holes.size).toBe(0);
    expect(takes.complete).toBe(true);
    expect(takes.account.map(({ stats }) => stats.fingerprint)).toEqual(before);
    expect(await database.frameData.where('take').equals(takes.take!.id).count()).toBe(6);
  });

  it('lose nothing but what is in memory when the tab dies, and go on to the same end', async () => {
    const { run, takes } = await open(20);
    await run.startBake();
    const whole = takes.account.map(({ stats }) => stats.fingerprint);
    // As a tab that is closed leaves it: what was kept last is all that there is.
    await database.frames.where('[take+frame]').above([takes.take!.id, 14]).delete();
    await database.frameData.where('[take+frame]').above([takes.take!.id, 14]).delete();
    await database.checkpoints.where('[take+frame]').above([takes.take!.id, 14]).delete();
    await run.open();
    expect(takes.bakedUntil).toBe(14);
    await run.startBake();
    expect(takes.account.map(({ stats }) => stats.fingerprint)).toEqual(whole);
  });

  it('of a shot that was left are not shown in the next one', async () => {
    const { run, takes, document } = await open();
    let listener: BakeListener | undefined;
    let flag: StopFlag = null;
    worker.bake.mockImplementation((request: BakeRequest, heard: BakeListener) => {
      [flag, listener] = [request.stop, heard];
      return called(null);
    });
    void run.startBake();
    await vi.waitFor(() => expect(listener).toBeDefined());
    await addShot('p', { ...document.shot!, id: 'other' }, new Map());
    run.leave();
    expect(isRaised(flag)).toBe(true);
    await document.open('other');
    await run.open();
    listener!.frame({ frame: 2, positions: [new Float32Array(3)], stats: {} as FrameStats, seconds: 1 });
    listener!.ended([]);
    await nextTick();
    expect(takes.take).toBeNull();
    expect(takes.account).toEqual([]);
    expect(run.frame).toBe(1);
    expect(run.status).toBe('idle');
  });

  it('stay on the frames of the shot', async () => {
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

  it('are not begun where another tab edits the shot, and only one thing at a time', async () => {
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
  beforeEach(() => {
    vi.clearAllMocks();
    worker.stop.mockResolvedValue(undefined);
  });

  const lying = (): Float32Array<ArrayBuffer> =>
    new Float32Array(shapeMesh(SHAPE, new Map()).positions.length).fill(0.25);
  const still = (): BakedFrame => ({
    ...{ frame: 1, positions: [lying()] },
    stats: { maxStretch: 0.01, fingerprint: frameFingerprint([lying()]) } as FrameStats,
  });

  /** A live run that gives a pose and waits for the end of the test. */
  function givesPoses(): { give: (pose: Partial<LivePose>) => void; end: () => void } {
    let listener: PoseListener<LivePose> | undefined;
    worker.live.mockImplementation((_sent, _flag, heard: PoseListener<LivePose>) => called((listener = heard)));
    const pose = { cloths: ['c'], positions: [lying()], time: 0.5, maxStretch: 0.01, checkpoints: [0] };
    return { give: (more) => listener!.pose({ ...pose, ...more }), end: () => listener!.ended(still()) };
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

  it('say when a thread was lost, and go on', async () => {
    const { run } = await open();
    const said = vi.spyOn(useNoticeStore(), 'remark');
    const told = vi.fn();
    worker.settle.mockImplementation(async (_: SentShot, __: StopFlag, listener: PoseListener<unknown>) => {
      listener.alone();
      told(run.status, run.onOneThread);
      listener.ended(null);
      await Promise.resolve();
    });
    expect(run.onOneThread).toBe(false);
    await run.startSettle();
    expect(told).toHaveBeenCalledWith('settling', true);
    expect(said).toHaveBeenCalledWith(expect.stringMatching(/^A thread stopped in the middle/));
    expect([run.status, run.onOneThread]).toEqual(['idle', true]);
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

  it('ask the live run for checkpoints only while there is one', async () => {
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

  it('are kept as stills, shown again, and leave the take that is looked at alone', async () => {
    const { run, takes } = await open();
    const poses = givesPoses();
    const live = run.startLive();
    poses.give({});
    worker.still.mockResolvedValue(still());
    await run.keepStill();
    poses.end();
    await live;
    expect(run.canKeepStill).toBe(true);
    await run.keepStill();
    expect(run.canKeepStill).toBe(false);
    await vi.waitFor(() => expect(takes.list).toHaveLength(2));
    expect(takes.list.every(({ source }) => source === 'live')).toBe(true);
    expect(takes.take).toBeNull();
    run.leavePose();
    await run.showStill(takes.list[0]! as TakeRow);
    expect(run.pose).toMatchObject({ source: 'still', still: takes.list[0]!.id });
    expect(run.shownPositions().get('c')![0]).toBe(0.25);
  });

  it('become the start of the shot as one undo', async () => {
    const { run, document, thing } = await open();
    const poses = givesPoses();
    const live = run.startLive();
    poses.give({});
    poses.end();
    await live;
    run.startFromPose();
    const asset = thing<Cloth>('Cloth').start!;
    expect(document.assets.get(asset)!.positions.every((value) => value === 0.25)).toBe(true);
    expect(run.pose).toBeNull();
    expect(run.shownPositions().get('c')![0]).toBe(0.25);
    expect(document.undoLabel).toBe('Start from this pose');
    // The mesh is kept with the edit that names it.
    await document.flush();
    expect(await database.assets.get([document.shot!.id, asset])).toBeDefined();
    document.undo();
    expect(thing<Cloth>('Cloth').start).toBeNull();
  });

  it('say why a run could not be made', async () => {
    const { run } = await open();
    worker.live.mockImplementationOnce((_sent, _flag, { failed }: PoseListener<LivePose>) =>
      called(failed('There is no cloth in the run.')),
    );
    await run.startLive();
    said('There is no cloth in the run.');
    expect(run.status).toBe('idle');
    // Tried again, it does not hold any more.
    const [message] = vi.mocked(ElMessage).mock.results;
    expect(message!.value.close).not.toHaveBeenCalled();
    void run.startSettle();
    expect(message!.value.close).toHaveBeenCalledOnce();
  });
});
