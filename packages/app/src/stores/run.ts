import { activeCloths, FrameClock, shapeMesh, type BakedFrame, type SettleStep, type Shot } from '@lumbra/core';
import * as Comlink from 'comlink';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { makeStopFlag, raise, type StopFlag } from '../jobs/stopFlag';
import { WorkerEndedError } from '../jobs/workerHost';
import { useDocumentStore } from '../session/document';
import { takeTake } from '../storage/shotLock';
import { isOutOfRoom, storageProblem, type TakeRow, type TakeSpan } from '../storage/database';
import { readFrame, takenShot } from '../storage/takes';
import { runHost, runSender } from '../workers/hosts';
import type { LivePose } from '../workers/liveRun';
import type { BakeRequest, PoseListener, RunWorker } from '../workers/run.worker';
import { errorText, useNoticeStore } from './notice';
import { planBake, spanNow } from './planBake';
import { useShownCloth, type Pose } from './shownCloth';
import { takeName, useTakesStore } from './takes';

/** A worker that has not stopped so many ms after it was told to is ended. */
const STOP_PATIENCE = 250;
const STOPPED = 'Stopped.';

/** What the running job has come to. */
export interface Progress {
  done: number;
  of: number;
  /** The frame that is being computed, and how much of it is done, 0 to 1; null while it is being prepared. */
  frame: number | null;
  share: number;
  /** Time that is left, in ms, and computing time a frame of late; 0 where it is not known yet. */
  left: number;
  perFrame: number;
}

/** What is running, the frame that is looked at, and poses outside the timeline. */
export const useRunStore = defineStore('run', () => {
  const document = useDocumentStore();
  const takes = useTakesStore();
  const notice = useNoticeStore();

  const status = ref<'idle' | 'baking' | 'settling' | 'live'>('idle');
  const frame = ref(1);
  const playing = ref(false);
  const pose = shallowRef<Pose | null>(null);
  const { arrived, shownPositions, forget } = useShownCloth(frame, pose);
  /** The frame that is looked at: of the pose of a settle or live run, else of the timeline. */
  const shownFrame = computed(() => pose.value?.frame ?? frame.value);
  const settle = ref<{ speed: number; step: number; atRest: boolean } | null>(null);
  const progress = shallowRef<Progress | null>(null);
  const stopping = ref(false);
  /** The browser refused to keep frames of this bake; they are in memory. */
  const refused = ref(false);
  /** Times in s of the checkpoints of a live run. */
  const checkpoints = shallowRef<readonly number[]>([]);
  /** The cloth as the last settle or live run left it, and the shot that it was. */
  let left: { source: 'settle' | 'live'; still: BakedFrame; shot: Shot; span: TakeSpan } | null = null;
  const canKeepStill = ref(false);
  let flag: StopFlag = null;
  /** Whether the worker has lost its helpers, and which one: another one has new ones. */
  const onOneThread = ref(false);
  let aloneSince = 0;
  /** The last bake’s frames are kept as far as they can be. */
  let settled: Promise<void> = Promise.resolve();
  /** Rises with every job: what an old one still tells is not heard. */
  let job = 0;

  const firstFrame = computed(() => document.shot?.firstFrame ?? 1);
  const lastFrame = computed(() => document.shot?.lastFrame ?? 1);
  const busy = computed(() => status.value !== 'idle');
  const currentStats = computed(() => takes.byFrame.get(frame.value)?.stats ?? null);

  /** Forgets the last shot and reads the takes of the open one. */
  async function open(): Promise<void> {
    leave();
    frame.value = firstFrame.value;
    await takes.open();
  }

  /** The shot is left: what runs is stopped, and what it still tells is not heard. */
  function leave(): void {
    if (busy.value) stop();
    job++;
    forget();
    left = null;
    canKeepStill.value = false;
    leavePose();
    playing.value = false;
    takes.close();
    finished();
  }

  function stop(): void {
    if (status.value === 'idle' || stopping.value) return;
    stopping.value = true;
    raise(flag);
    void runHost.call((api) => api.stop()).catch(() => undefined);
    const mine = job;
    setTimeout(() => {
      if (mine !== job || !stopping.value) return;
      // While it is prepared, within a long substep, and where memory is not shared, a worker hears nothing. Frames that it has told of
      // are here. The cloth as a settle or a live run leaves it comes when it comes.
      if (status.value === 'baking') runHost.kill(STOPPED);
      else finished();
    }, STOP_PATIENCE);
  }

  function begin(now: 'baking' | 'settling' | 'live'): number {
    notice.over('run');
    status.value = now;
    stopping.value = false;
    playing.value = false;
    refused.value = false;
    flag = makeStopFlag();
    progress.value = { done: 0, of: 0, frame: null, share: 0, left: 0, perFrame: 0 };
    return ++job;
  }

  function finished(): void {
    if (aloneSince !== runHost.generation) onOneThread.value = false;
    status.value = 'idle';
    stopping.value = false;
    progress.value = null;
  }

  /** What went wrong, unless it was asked for. */
  function said(error: unknown): void {
    const asked = error instanceof WorkerEndedError && error.message === STOPPED;
    if (!asked) notice.problem(isOutOfRoom(error) ? storageProblem(error) : errorText(error), 'run');
  }

  /**
   * Bakes the range. What the take that is looked at lacks is added to it while it holds; else a new take is begun. With a frame, a new
   * take goes on from there with the shot as it is now. No take is ever written over.
   */
  async function startBake(from: number | null = null): Promise<void> {
    const shot = document.shot;
    if (!shot || busy.value || !document.writable()) return;
    if (from === null && takes.complete) return;
    const visit = document.visitNow();
    // Before anything is waited for, so that nothing else begins meanwhile.
    const mine = begin('baking');
    leavePose();
    await settled;
    let baking: { row: TakeRow; release: () => void } | null = null;
    try {
      // A take names meshes that the shot has; what cannot be saved is said there.
      await document.flush();
      if (!(await takes.keepsAll())) return;
      const made = await planBake(shot, from);
      if (!made || visit !== document.visitNow()) return;
      const release = await takeTake(made.row.id);
      if (!release)
        throw new Error(`${takeName(made.row)} is being baked in another tab. Wait for it, or stop it there.`);
      baking = { row: made.row, release };
      takes.baking = true;
      progress.value = { ...progress.value!, of: made.plan.wanted.length };
      await bakeInWorker(shot, made.plan, mine);
    } catch (error) {
      if (mine === job) said(error);
    } finally {
      baking?.release();
      takes.baking = false;
      if (mine === job) {
        finished();
        settled = settleUp();
        await settled;
      }
    }
  }

  /** Where frames are in memory only, tries to keep them; then the account is what is stored. */
  async function settleUp(): Promise<void> {
    // A worker that was ended had frames that were not kept yet; here they still are.
    if (takes.unkept.length > 0 && !(await takes.keepAgain())) refused.value = true;
    else refused.value = false;
    await takes.refresh().catch(() => undefined);
  }

  function bakeInWorker(shot: Shot, wanted: BakeRequest['plan'], mine: number): Promise<void> {
    const heard =
      <A extends unknown[]>(act: (...args: A) => void) =>
      (...args: A) => {
        if (mine === job) act(...args);
      };
    const clock = new FrameClock();
    return inWorker<number[]>(
      (api, listener) => {
        const sent = runSender.pack(shot, document.assetsOf(shot));
        return api.bake({ sent, stop: flag, plan: wanted }, listener as never);
      },
      {
        progress: heard((at: number, share: number) => {
          progress.value = { ...progress.value!, frame: at, share };
        }),
        frame: heard((baked) => {
          takes.add(baked as never);
          const { done, of } = progress.value!;
          const now = done + 1;
          clock.tell(performance.now());
          const perFrame = clock.perFrame ?? 0;
          const next = (baked as BakedFrame).frame;
          progress.value = { done: now, of, frame: next, share: 1, left: perFrame * (of - now), perFrame };
          frame.value = next;
        }),
        kept: heard((frames: number[]) => {
          takes.kept(frames);
          refused.value = false;
        }),
        refused: heard((text: string) => {
          refused.value = true;
          notice.problem(`${text} The bake goes on; its frames are in memory until there is room.`);
        }),
      },
    ).then(() => undefined);
  }

  /** A thread was lost: what runs goes on without it, and so does all that comes after in this worker. */
  function goOnAlone(): void {
    onOneThread.value = true;
    aloneSince = runHost.generation;
    notice.remark(
      'A thread stopped in the middle. It goes on with one, to the same bits; nothing is lost, but it takes longer.',
    );
  }

  /** Starts a job in the worker and waits for its end. */
  function inWorker<Result>(
    start: (api: Comlink.Remote<RunWorker>, listener: unknown) => Promise<void>,
    heard: Record<string, (...args: never[]) => void>,
  ): Promise<Result> {
    return runHost.call(
      (api) =>
        new Promise<Result>((resolve, reject) => {
          const failed = (message: string) => reject(new Error(message));
          const listener = Comlink.proxy({ ...heard, alone: goOnAlone, ended: resolve, failed });
          start(api, listener).catch(reject);
        }),
    );
  }

  /** Runs without the timeline; the cloth as it lies at the end can be kept. */
  async function runPose<P extends { positions: Float32Array[]; maxStretch: number }>(
    now: 'settling' | 'live',
    start: (api: Comlink.Remote<RunWorker>, listener: PoseListener<P>) => Promise<void>,
    show: (posed: P) => Pose,
  ): Promise<void> {
    const shot = document.shot;
    if (!shot || busy.value) return;
    const mine = begin(now);
    canKeepStill.value = false;
    try {
      const still = await inWorker<BakedFrame | null>((api, listener) => start(api, listener as PoseListener<P>), {
        pose: (posed: never) => {
          if (mine !== job) return;
          pose.value = show(posed);
          progress.value = { ...progress.value!, frame: shot.firstFrame };
        },
      });
      if (mine !== job || !still) return;
      left = { source: now === 'live' ? 'live' : 'settle', still, ...shotNow(shot) };
      canKeepStill.value = pose.value !== null;
    } catch (error) {
      if (mine === job) said(error);
    } finally {
      if (mine === job) finished();
    }
  }

  /** The shot that a pose is of: a live run takes changes over. */
  function shotNow(started: Shot): { shot: Shot; span: TakeSpan } {
    const shot = document.shot ?? started;
    return { shot, span: spanNow(shot, shot.firstFrame) };
  }

  async function startSettle(): Promise<void> {
    const shot = document.shot;
    if (!shot || busy.value) return;
    settle.value = { speed: 0, step: 0, atRest: false };
    const cloths = activeCloths(shot).map(({ id }) => id);
    await runPose<SettleStep>(
      'settling',
      (api, listener) => api.settle(runSender.pack(shot, document.currentAssets()), flag, listener),
      ({ speed, step, atRest, positions, maxStretch }) => {
        settle.value = { speed, step, atRest };
        return { source: 'settle', positions, cloths, maxStretch, frame: shot.firstFrame };
      },
    );
  }

  async function startLive(): Promise<void> {
    const shot = document.shot;
    if (!shot || busy.value) return;
    settle.value = null;
    checkpoints.value = [];
    await runPose<LivePose>(
      'live',
      (api, listener) => api.live(runSender.pack(shot, document.currentAssets()), flag, listener),
      ({ cloths, positions, maxStretch, time, checkpoints: times, cues }) => {
        if (times.join() !== checkpoints.value.join()) checkpoints.value = times;
        const at = shot.firstFrame - shot.preRoll + time * shot.frameRate;
        return { source: 'live', positions, cloths, maxStretch, frame: at, ...(cues && { cues }) };
      },
    );
  }

  /** Asks a live run for something; what it cannot do is said. */
  async function ask<T>(what: (api: Comlink.Remote<RunWorker>) => Promise<T>): Promise<T | null> {
    if (status.value !== 'live') return null;
    return runHost.call(what).catch((error: unknown) => {
      said(error);
      return null;
    });
  }

  /** Keeps the live run as it is now. */
  const setCheckpoint = () => ask((api) => api.checkpoint());

  /** Takes the live run back to its last checkpoint, or to the one before that. */
  const toCheckpoint = (further = false) => ask((api) => api.back(further));

  /** Keeps the cloth as it lies now as a take of one frame. */
  async function keepStill(): Promise<void> {
    const shot = document.shot;
    if (!shot || !document.writable()) return;
    const kept =
      status.value === 'live'
        ? await ask((api) => api.still()).then((still) => still && { source: 'live' as const, still, ...shotNow(shot) })
        : left;
    if (!kept || kept.shot.id !== document.shot?.id) return;
    try {
      await document.flush();
      const row = await takes.keepPose(kept.source, kept.still, kept.shot, kept.span);
      if (kept === left) canKeepStill.value = false;
      notice.say(`${takeName(row)} is kept.`);
    } catch (error) {
      notice.problem(storageProblem(error));
    }
  }

  /** Shows a still that was kept. */
  async function showStill(row: TakeRow): Promise<void> {
    const visit = document.visitNow();
    try {
      const [shot, stats] = await Promise.all([takenShot(row), takes.statsOf(row)]);
      const positions = stats && (await readFrame(row.id, stats.frame, stats.stats));
      if (document.visitNow() !== visit || busy.value) return;
      if (!shot || !positions) throw new Error('Nothing of it was stored; delete it.');
      const cloths = activeCloths(shot).map(({ id }) => id);
      settle.value = null;
      canKeepStill.value = false;
      const maxStretch = stats.stats.maxStretch;
      pose.value = { source: 'still', positions, cloths, maxStretch, frame: row.firstFrame, still: row.id };
    } catch (error) {
      notice.problem(`${takeName(row)} could not be read back. ${errorText(error)}`);
    }
  }

  // A live run takes changes over as they are made.
  watch(
    () => document.hash,
    () => {
      const shot = document.shot;
      if (status.value === 'live' && shot) {
        void ask((api) => api.update(runSender.pack(shot, document.currentAssets())));
      }
      if (status.value === 'idle' && pose.value) settle.value = null;
    },
  );

  /** Makes the pose that is shown the start of the shot; undoable. */
  function startFromPose(): void {
    const held = pose.value;
    const shot = document.shot;
    if (!held || !shot) return;
    const starts = new Map<string, string>();
    for (const [i, id] of held.cloths.entries()) {
      const cloth = shot.things.find((thing) => thing.id === id);
      if (cloth?.role !== 'cloth') continue;
      const { triangles, material, positions } = shapeMesh(cloth.shape, document.assets);
      const posed = held.positions[i]!;
      if (posed.length !== positions.length) continue;
      starts.set(id, document.addMesh({ positions: posed, triangles, material }));
    }
    const done = document.edit('Start from this pose', (draft) => {
      for (const thing of draft.things) {
        if (thing.role === 'cloth' && starts.has(thing.id)) thing.start = starts.get(thing.id)!;
      }
    });
    if (done) leavePose();
  }

  /** Goes back from a settle or live pose to the timeline. */
  function leavePose(): void {
    pose.value = null;
    settle.value = null;
    canKeepStill.value = false;
    left = null;
  }

  function goTo(wanted: number): void {
    const inside = Math.min(lastFrame.value, Math.max(firstFrame.value, Math.round(wanted)));
    if (status.value === 'idle') leavePose();
    frame.value = inside;
  }

  return {
    onOneThread,
    status,
    stopping,
    frame,
    playing,
    pose,
    settle,
    progress,
    refused,
    arrived,
    firstFrame,
    lastFrame,
    busy,
    currentStats,
    canKeepStill,
    shownPositions,
    shownFrame,
    open,
    leave,
    stop,
    startBake,
    startSettle,
    startLive,
    checkpoints,
    setCheckpoint,
    toCheckpoint,
    keepStill,
    showStill,
    startFromPose,
    leavePose,
    goTo,
  };
});
