import { SettleRun, type BakedFrame, type SettleStep } from '@lumbra/core';
import * as Comlink from 'comlink';
import { ReceivedShots, type SentShot } from '../jobs/sentShots';
import { isRaised, type StopFlag } from '../jobs/stopFlag';
import { bakeTake, type BakeEvents, type BakePlan } from './bakeJob';
import { LiveRun, type LivePose } from './liveRun';
import { startPageThreads } from './threads';

// Runs shots off the page's thread, one job at a time. What a job tells goes through one port with its end, so that it comes in order.

export interface BakeRequest {
  sent: SentShot;
  stop: StopFlag;
  plan: Omit<BakePlan, 'origin'> & { origin: { frame: number; sent: SentShot; fingerprint: string } | null };
}

/** What every job tells besides its end. */
export interface JobListener {
  /** From here on it is computed on one thread: another has stopped answering. */
  alone: () => void;
  failed: (message: string) => void;
}

export type BakeListener = BakeEvents & JobListener & { ended: (unkept: number[]) => void };

/** What a settle or a live run tells; it ends with the cloth as it lies then. */
export interface PoseListener<Pose> extends JobListener {
  pose: (pose: Pose) => void;
  ended: (still: BakedFrame | null) => void;
}

const pause = () => new Promise((resolve) => setTimeout(resolve, 0));

let job = new AbortController();
/** Tells that helpers were given up, and the job goes on on one thread. */
let alone: () => void = () => undefined;
let liveRun: LiveRun | null = null;
const received = new ReceivedShots();

function begin(flag: StopFlag): () => boolean {
  job.abort();
  job = new AbortController();
  const { signal } = job;
  return () => signal.aborted || isRaised(flag);
}

function moved<T extends { positions: Float32Array<ArrayBuffer>[] }>(pose: T): T {
  return Comlink.transfer(pose, [...new Set(pose.positions.map(({ buffer }) => buffer))]);
}

/** Tells how a job ended: by its result, or by what went wrong. */
async function told<T>(work: () => Promise<T>, listener: JobListener & { ended: (result: T) => void }): Promise<void> {
  alone = () => listener.alone();
  try {
    listener.ended(await work());
  } catch (error) {
    listener.failed(error instanceof Error ? error.message : String(error));
  }
}

const worker = {
  /** Computes frames of a take and keeps them. */
  bake({ sent, stop, plan }: BakeRequest, listener: BakeListener): void {
    const stops = begin(stop);
    void told(() => {
      const { origin } = plan;
      // Of the same shot: what it names besides is received first.
      const before = origin && { ...origin, ...received.receive(origin.sent) };
      const given = received.receive(sent);
      const events = {
        ...pick(listener),
        frame: (frame: Parameters<BakeEvents['frame']>[0]) => listener.frame(moved(frame)),
      };
      return bakeTake(given, { ...plan, origin: before }, events, stops);
    }, listener);
  },

  /** Lets the cloth fall to rest. */
  settle(sent: SentShot, stop: StopFlag, listener: PoseListener<SettleStep>): void {
    const stops = begin(stop);
    void told(async () => {
      const { shot, assets } = received.receive(sent);
      const run = new SettleRun(shot, assets);
      while (!run.isSpent) {
        await pause();
        const step = stops() ? null : run.tryNext(() => !stops());
        if (!step) break;
        listener.pose(moved(step));
        if (step.atRest) break;
      }
      return run.still();
    }, listener);
  },

  /**
   * Runs without the timeline, no faster than real time. `update` changes the shot while it runs; the cloth goes on from where it is
   * as long as it has the same points.
   */
  live(sent: SentShot, stop: StopFlag, listener: PoseListener<LivePose>): void {
    const stops = begin(stop);
    void told(async () => {
      const { shot, assets } = received.receive(sent);
      const run = new LiveRun(shot, assets);
      liveRun = run;
      try {
        while (!stops()) {
          const started = performance.now();
          const pose = run.tryNext(() => !stops());
          if (!pose) break;
          listener.pose(moved(pose));
          const spare = 1000 / run.frameRate - (performance.now() - started);
          await new Promise((resolve) => setTimeout(resolve, Math.max(0, spare)));
        }
        return run.still();
      } finally {
        if (liveRun === run) liveRun = null;
      }
    }, listener);
  },

  /** Changes the shot of a live run. */
  update(sent: SentShot): void {
    const { shot, assets } = received.receive(sent);
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

  /** The cloth of a live run as it is now. */
  still: (): BakedFrame | null => liveRun?.still() ?? null,

  /** Ends the running job after the frame that is being computed. */
  stop(): void {
    job.abort();
  },
};

/** A listener’s functions one by one: what stands on the other side of a port has no list of its own. */
function pick({ progress, frame, kept, refused }: BakeListener): BakeEvents {
  return { progress, frame, kept, refused };
}

export type RunWorker = typeof worker;

startPageThreads(() => alone());

Comlink.expose(worker);
