import {
  activeCloths,
  changedInputs,
  inputsHash,
  newId,
  runInputs,
  shapeMesh,
  startPositions,
  substepsOf,
  type BakedFrame,
  type Cloth,
} from '@lumbra/core';
import * as Comlink from 'comlink';
import { defineStore } from 'pinia';
import { computed, markRaw, ref, shallowRef, watch } from 'vue';
import { deleteBake, readBake } from '../storage/bakes';
import { storageProblem, type BakeRow } from '../storage/database';
import { runWorker } from '../workers/runClient';
import { useDocumentStore } from './document';
import { errorText, useNoticeStore } from './notice';

/** A pose outside the timeline, of a settle or a live run. */
export interface Pose {
  source: 'settle' | 'live';
  positions: Float32Array<ArrayBuffer>[];
  /** Ids of the cloths, in the order of `positions`. */
  cloths: string[];
  maxStretch: number;
  /** The frame, not always whole, at which keyed things are shown with it. */
  frame: number;
}

/** The bake of the open shot, what is running, and the frame that is looked at. */
export const useRunStore = defineStore('run', () => {
  const document = useDocumentStore();
  const notice = useNoticeStore();

  const status = ref<'idle' | 'baking' | 'settling' | 'live'>('idle');
  const bake = shallowRef<BakeRow | null>(null);
  /** Baked frames by number; `version` rises when they change. */
  const frames = markRaw(new Map<number, BakedFrame>());
  const version = ref(0);
  const frame = ref(1);
  const playing = ref(false);
  const pose = shallowRef<Pose | null>(null);
  /** The frame that is looked at: of the pose of a settle or live run, else of the timeline. */
  const shownFrame = computed(() => pose.value?.frame ?? frame.value);
  const settle = ref<{ speed: number; step: number; atRest: boolean } | null>(null);
  /** Of the running bake: when it began and how many frames it has done. */
  const progress = ref<{ started: number; done: number; left: number } | null>(null);
  const stopping = ref(false);
  /** Times in s of the checkpoints of a live run. */
  const checkpoints = shallowRef<readonly number[]>([]);

  const firstFrame = computed(() => document.shot?.firstFrame ?? 1);
  const lastFrame = computed(() => document.shot?.lastFrame ?? 1);
  const inputs = computed(() => (document.shot ? runInputs(document.shot, document.assets) : {}));
  const hash = computed(() => inputsHash(inputs.value));
  const stale = computed(() => bake.value !== null && bake.value.inputsHash !== hash.value);
  const changes = computed(() => (bake.value && stale.value ? changedInputs(bake.value.inputs, inputs.value) : []));
  const bakedUntil = computed(() => {
    void version.value;
    return bake.value?.frames.at(-1)?.frame ?? null;
  });
  const complete = computed(() => !stale.value && bakedUntil.value !== null && bakedUntil.value >= lastFrame.value);
  const busy = computed(() => status.value !== 'idle');
  const stats = computed(() => {
    void version.value;
    return bake.value?.frames ?? [];
  });
  const currentStats = computed(() => stats.value.find((entry) => entry.frame === frame.value)?.stats ?? null);

  /** Where a cloth starts as cut; where even its mesh is missing there is nothing to show. */
  function unsettled(cloth: Cloth): Float32Array {
    try {
      return startPositions(document.shot!, { ...cloth, start: null }, document.assets);
    } catch {
      return new Float32Array();
    }
  }

  function shownPositions(): Map<string, Float32Array> {
    const shot = document.shot;
    const shown = new Map<string, Float32Array>();
    if (!shot) return shown;
    const cloths = activeCloths(shot);
    const baked = stale.value && frame.value === firstFrame.value ? undefined : frames.get(frame.value);
    for (const [i, cloth] of cloths.entries()) {
      const posed = pose.value?.positions[pose.value.cloths.indexOf(cloth.id)];
      const kept = posed ?? baked?.positions[i];
      if (kept && kept.length === shapeMesh(cloth.shape, document.assets).positions.length) shown.set(cloth.id, kept);
    }
    for (const thing of shot.things) {
      if (thing.role !== 'cloth' || shown.has(thing.id)) continue;
      try {
        shown.set(thing.id, startPositions(shot, thing, document.assets));
      } catch {
        shown.set(thing.id, unsettled(thing));
      }
    }
    return shown;
  }

  /** Forgets the last shot and reads the bake of the open one. */
  async function open(): Promise<void> {
    frames.clear();
    bake.value = null;
    pose.value = null;
    settle.value = null;
    playing.value = false;
    status.value = 'idle';
    frame.value = firstFrame.value;
    version.value++;
    const id = document.shot?.id;
    if (!id) return;
    try {
      const kept = await readBake(id);
      if (!kept || document.shot?.id !== id || status.value !== 'idle') return;
      for (const baked of kept.frames) frames.set(baked.frame, baked);
      bake.value = kept.bake;
      version.value++;
    } catch (error) {
      notice.problem(
        `The kept bake could not be read: ${errorText(error)} The shot itself is as it was. Bake it again.`,
      );
      await deleteBake(id).catch(() => undefined);
    }
  }

  function stop(): void {
    if (status.value === 'idle') return;
    stopping.value = true;
    void runWorker().stop();
  }

  function finished(): void {
    status.value = 'idle';
    stopping.value = false;
    progress.value = null;
  }

  /** Bakes the range: goes on from the last frame of a bake that still holds, else from the start. */
  async function startBake(): Promise<void> {
    const shot = document.shot;
    if (!shot || busy.value || !document.writable()) return;
    const goOn = bake.value && !stale.value && !complete.value ? bake.value : null;
    // Before anything is waited for, so that nothing else begins meanwhile.
    status.value = 'baking';
    pose.value = null;
    playing.value = false;
    if (!goOn && !(await dropBake())) return finished();
    const first = goOn ? (bakedUntil.value ?? firstFrame.value) + 1 : firstFrame.value;
    const total = lastFrame.value - first + 1;
    progress.value = { started: performance.now(), done: 0, left: 0 };
    const account: BakeRow = goOn
      ? { ...goOn, frames: [...goOn.frames] }
      : {
          shot: shot.id,
          inputs: inputs.value,
          inputsHash: hash.value,
          substeps: substepsOf(shot, document.assets),
          firstFrame: firstFrame.value,
          frames: [],
          checkpoint: { frame: 0, state: { time: 0, speed: 0, arrays: new Float32Array(), again: [] } },
        };
    bake.value = account;
    const onFrame = (baked: BakedFrame) => {
      frames.set(baked.frame, baked);
      account.frames.push({ frame: baked.frame, stats: baked.stats });
      const spent = performance.now() - progress.value!.started;
      const done = progress.value!.done + 1;
      progress.value = { ...progress.value!, done, left: (spent / done) * (total - done) };
      frame.value = baked.frame;
      version.value++;
    };
    try {
      const from = goOn ? { checkpoint: goOn.checkpoint, frames: goOn.frames } : undefined;
      const job = { shot, assets: document.currentAssets(), lastFrame: lastFrame.value, from };
      const listener = { frame: onFrame, storage: (text: string) => notice.problem(text) };
      bake.value = await runWorker().bake(job, Comlink.proxy(listener));
      version.value++;
    } catch (error) {
      notice.problem(errorText(error));
      // What was kept before the error is in storage with its checkpoint.
      const kept = await readBake(shot.id).catch(() => undefined);
      bake.value = kept?.bake ?? null;
      if (!kept) frames.clear();
      version.value++;
    } finally {
      finished();
    }
  }

  async function dropBake(): Promise<boolean> {
    const id = document.shot?.id;
    if (!id || !document.writable()) return false;
    try {
      await deleteBake(id);
    } catch (error) {
      notice.problem(storageProblem(error));
    }
    frames.clear();
    bake.value = null;
    frame.value = firstFrame.value;
    version.value++;
    return true;
  }

  async function startSettle(): Promise<void> {
    const shot = document.shot;
    if (!shot || busy.value) return;
    status.value = 'settling';
    playing.value = false;
    settle.value = { speed: 0, step: 0, atRest: false };
    const cloths = activeCloths(shot).map(({ id }) => id);
    try {
      await runWorker().settle(
        { shot, assets: document.currentAssets() },
        Comlink.proxy((step) => {
          settle.value = { speed: step.speed, step: step.step, atRest: step.atRest };
          const { positions, maxStretch } = step;
          pose.value = { source: 'settle', positions, cloths, maxStretch, frame: shot.firstFrame };
        }),
      );
    } catch (error) {
      notice.problem(errorText(error));
    } finally {
      finished();
    }
  }

  async function startLive(): Promise<void> {
    const shot = document.shot;
    if (!shot || busy.value) return;
    status.value = 'live';
    playing.value = false;
    settle.value = null;
    checkpoints.value = [];
    try {
      await runWorker().live(
        { shot, assets: document.currentAssets() },
        Comlink.proxy((live) => {
          const { cloths, positions, maxStretch } = live;
          if (live.checkpoints.join() !== checkpoints.value.join()) checkpoints.value = live.checkpoints;
          const at = shot.firstFrame - shot.preRoll + live.time * shot.frameRate;
          pose.value = { source: 'live', positions, cloths, maxStretch, frame: at };
        }),
      );
    } catch (error) {
      notice.problem(errorText(error));
    } finally {
      finished();
    }
  }

  /** Keeps the live run as it is now. */
  async function setCheckpoint(): Promise<void> {
    if (status.value === 'live') await runWorker().checkpoint();
  }

  /** Takes the live run back to its last checkpoint, or to the one before that. */
  async function toCheckpoint(further = false): Promise<void> {
    if (status.value === 'live') await runWorker().back(further);
  }

  // A live run takes changes over as they are made.
  watch(hash, () => {
    if (status.value === 'live' && document.shot) {
      void runWorker().update({ shot: document.shot, assets: document.currentAssets() });
    }
    if (status.value === 'idle' && pose.value) settle.value = null;
  });

  /** Makes the pose of a settle or live run the start of the shot; undoable. */
  async function startFromPose(): Promise<void> {
    const held = pose.value;
    if (!held || !document.shot) return;
    const starts = new Map<string, string>();
    for (const [i, id] of held.cloths.entries()) {
      const cloth = document.shot.things.find((thing) => thing.id === id);
      if (cloth?.role !== 'cloth') continue;
      const asset = newId();
      const { triangles, material } = shapeMesh(cloth.shape, document.assets);
      await document.addAsset(asset, { positions: held.positions[i]!, triangles, material });
      starts.set(id, asset);
    }
    document.edit('Start from this pose', (draft) => {
      for (const thing of draft.things) {
        if (thing.role === 'cloth' && starts.has(thing.id)) thing.start = starts.get(thing.id)!;
      }
    });
    leavePose();
  }

  /** Goes back from a settle or live pose to the timeline. */
  function leavePose(): void {
    pose.value = null;
    settle.value = null;
  }

  function goTo(wanted: number): void {
    const inside = Math.min(lastFrame.value, Math.max(firstFrame.value, Math.round(wanted)));
    if (status.value === 'idle') leavePose();
    frame.value = inside;
  }

  return {
    status,
    stopping,
    bake,
    frames,
    version,
    frame,
    playing,
    pose,
    settle,
    progress,
    firstFrame,
    lastFrame,
    stale,
    hash,
    changes,
    bakedUntil,
    complete,
    busy,
    stats,
    currentStats,
    shownPositions,
    shownFrame,
    open,
    stop,
    startBake,
    dropBake,
    startSettle,
    startLive,
    checkpoints,
    setCheckpoint,
    toCheckpoint,
    startFromPose,
    leavePose,
    goTo,
  };
});
