import {
  activeCloths,
  bakeFrames,
  BakeRun,
  compile,
  inputsHash,
  runInputs,
  SettleRun,
  Solver,
  substepsOf,
  MOST_SETTLE_STEPS,
  type BakeCheckpoint,
  type BakedFrame,
  type FrameStats,
  type Mesh,
  type SettleStep,
  type Shot,
} from '@lumbra/core';
import * as Comlink from 'comlink';
import { keepFrames } from '../storage/bakes';
import { storageProblem, type BakeRow } from '../storage/database';

// Runs shots off the page's thread. One job at a time; `stop` ends it after the frame that is being computed.

/** Frames are kept in runs of this many; a closed tab loses at most these. */
const CHUNK_FRAMES = 8;

export interface BakeJob {
  shot: Shot;
  assets: Map<string, Mesh>;
  lastFrame: number;
  /** Goes on from here; the frames before are kept already. */
  from?: { checkpoint: BakeCheckpoint; frames: { frame: number; stats: FrameStats }[] };
}

export interface BakeListener {
  frame: (baked: BakedFrame) => void;
  /** Frames could not be kept; they are still in memory and the bake goes on. */
  storage: (problem: string) => void;
}

export interface LivePose {
  positions: Float32Array<ArrayBuffer>[];
  /** Seconds since the live run began. */
  time: number;
  maxStretch: number;
}

const pause = () => new Promise((resolve) => setTimeout(resolve, 0));

let job = new AbortController();
let liveShot: { shot: Shot; assets: Map<string, Mesh> } | null = null;

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
  async bake({ shot, assets, lastFrame, from }: BakeJob, listener: BakeListener): Promise<BakeRow> {
    const signal = begin();
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
  async settle(shot: Shot, assets: Map<string, Mesh>, onStep: (step: SettleStep) => void): Promise<boolean> {
    const signal = begin();
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
  async live(shot: Shot, assets: Map<string, Mesh>, onPose: (pose: LivePose) => void): Promise<void> {
    const signal = begin();
    let solver = new Solver(compile(shot, assets));
    let current = shot;
    let substeps = substepsOf(shot, assets);
    liveShot = null;
    while (!signal.aborted) {
      const started = performance.now();
      if (liveShot) {
        const next: { shot: Shot; assets: Map<string, Mesh> } = liveShot;
        liveShot = null;
        const changed = new Solver(compile(next.shot, next.assets));
        const state = solver.state();
        if (activeCloths(next.shot).length === activeCloths(current).length) {
          try {
            changed.restore(state);
          } catch (error) {
            // Another number of points: the cloth starts anew.
            if (!(error instanceof RangeError)) throw error;
          }
        }
        solver = changed;
        current = next.shot;
        substeps = substepsOf(next.shot, next.assets);
      }
      solver.advance(1 / current.frameRate, substeps);
      const positions = activeCloths(current).map((_, i) => solver.positions(i));
      const maxStretch = solver.measure().stretch.largest;
      onPose(Comlink.transfer({ positions, time: solver.time, maxStretch }, buffers(positions)));
      const spare = 1000 / current.frameRate - (performance.now() - started);
      await new Promise((resolve) => setTimeout(resolve, Math.max(0, spare)));
    }
  },

  /** Changes the shot of a live run. */
  update(shot: Shot, assets: Map<string, Mesh>): void {
    liveShot = { shot, assets };
  },

  /** Ends the running job after the frame that is being computed. */
  stop(): void {
    job.abort();
  },
};

export type RunWorker = typeof worker;

Comlink.expose(worker);
