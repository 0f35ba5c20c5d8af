import {
  bakeFrames,
  BakeRun,
  inputsHash,
  runInputs,
  SettleRun,
  MOST_SETTLE_STEPS,
  type BakeCheckpoint,
  type BakedFrame,
  type FrameStats,
  type SettleStep,
} from '@lumbra/core';
import * as Comlink from 'comlink';
import { keepFrames } from '../storage/bakes';
import { storageProblem, type BakeRow } from '../storage/database';
import { LiveRun, type LivePose } from './liveRun';
import { ReceivedShots, type ReceivedShot } from './receivedShots';

// Runs shots off the page's thread. One job at a time; `stop` ends it after the frame that is being computed.

/** Frames are kept in runs of this many; a closed tab loses at most these. */
const CHUNK_FRAMES = 8;

export interface BakeJob extends ReceivedShot {
  lastFrame: number;
  /** Goes on from here; the frames before are kept already. */
  from?: { checkpoint: BakeCheckpoint; frames: { frame: number; stats: FrameStats }[] };
}

export interface BakeListener {
  frame: (baked: BakedFrame) => void;
  /** Frames could not be kept; they are still in memory and the bake goes on. */
  storage: (problem: string) => void;
}

const pause = () => new Promise((resolve) => setTimeout(resolve, 0));

let job = new AbortController();
let liveRun: LiveRun | null = null;
const received = new ReceivedShots();

function begin(): AbortSignal {
  job.abort();
  job = new AbortController();
  return job.signal;
}

function buffers(positions: Float32Array<ArrayBuffer>[]): ArrayBuffer[] {
  return positions.map((cloth) => cloth.buffer);
}

const worker = {
  /** Bakes until the last frame or `stop`; resolves to the account of what is kept. */
  async bake({ lastFrame, from, ...given }: BakeJob, listener: BakeListener): Promise<BakeRow> {
    const signal = begin();
    const { shot, assets } = received.receive(given);
    const inputs = runInputs(shot, assets);
    const run = new BakeRun(shot, assets, from?.checkpoint);
    const frames = [...(from?.frames ?? [])];
    let waiting: BakedFrame[] = [];
    let refused = false;
    const account = (): BakeRow => ({
      shot: shot.id,
      inputs,
      inputsHash: inputsHash(inputs),
      substeps: run.substeps,
      firstFrame: shot.firstFrame,
      frames: [...frames],
      checkpoint: run.checkpoint(),
    });
    const keep = async () => {
      if (refused || waiting.length === 0) return;
      try {
        await keepFrames(account(), waiting);
      } catch (error) {
        refused = true;
        listener.storage(storageProblem(error));
      }
      waiting = [];
    };
    try {
      for await (const baked of bakeFrames(run, lastFrame, signal)) {
        frames.push({ frame: baked.frame, stats: baked.stats });
        waiting.push({ ...baked, positions: baked.positions.map((cloth) => cloth.slice()) });
        listener.frame(Comlink.transfer(baked, buffers(baked.positions)));
        if (waiting.length >= CHUNK_FRAMES) await keep();
      }
    } finally {
      await keep();
    }
    return account();
  },

  /** Lets the cloth fall to rest; resolves to whether it came to rest before it was stopped. */
  async settle(given: ReceivedShot, onStep: (step: SettleStep) => void): Promise<boolean> {
    const signal = begin();
    const { shot, assets } = received.receive(given);
    const run = new SettleRun(shot, assets);
    for (let n = 0; n < MOST_SETTLE_STEPS; n++) {
      await pause();
      if (signal.aborted) return false;
      const step = run.next();
      onStep(Comlink.transfer(step, buffers(step.positions)));
      if (step.atRest) return true;
    }
    return false;
  },

  /**
   * Runs without the timeline until `stop`, no faster than real time. `update` changes the shot while it runs; the cloth
   * goes on from where it is as long as it has the same points.
   */
  async live(given: ReceivedShot, onPose: (pose: LivePose) => void): Promise<void> {
    const signal = begin();
    const { shot, assets } = received.receive(given);
    const run = new LiveRun(shot, assets);
    liveRun = run;
    try {
      while (!signal.aborted) {
        const started = performance.now();
        const pose = run.next();
        onPose(Comlink.transfer(pose, buffers(pose.positions)));
        const spare = 1000 / run.frameRate - (performance.now() - started);
        await new Promise((resolve) => setTimeout(resolve, Math.max(0, spare)));
      }
    } finally {
      if (liveRun === run) liveRun = null;
    }
  },

  /** Changes the shot of a live run. */
  update(given: ReceivedShot): void {
    const { shot, assets } = received.receive(given);
    liveRun?.update(shot, assets);
  },

  /** Grips cloth around a place, x y z in m, within a radius in m. */
  grip: (cloth: string, place: number[], radius: number): void => liveRun?.grip(cloth, place, radius),

  /** Takes what is gripped so far from where it was gripped; null lets it go. */
  moveGrip: (by: number[] | null): void => liveRun?.moveGrip(by),

  /** Keeps the live run as it is now, to come back to. */
  checkpoint: (): void => liveRun?.checkpoint(),

  /** Goes back to the last checkpoint, and with `further` to the one before that. */
  back: (further: boolean): void => liveRun?.back(further),

  /** Ends the running job after the frame that is being computed. */
  stop(): void {
    job.abort();
  },
};

export type RunWorker = typeof worker;

Comlink.expose(worker);
