import { BakeRun, type BakeCheckpoint, type BakedFrame, type Heed, type Mesh, type Shot } from '@lumbra/core';
import { storageProblem } from '../storage/database';
import { CHECKPOINT_FRAMES, checkpointBefore, keepFrames, TakeGoneError, type TimedFrame } from '../storage/takes';

// Computes frames of a take and keeps them as they come.

/** Frames are kept when there are so many, or after so many ms; a closed tab loses at most these. */
const KEPT_TOGETHER = 8;
const KEPT_AFTER = 1500;
/** Frames that the browser refuses to keep stay in memory, up to so many bytes. */
const MOST_UNKEPT = 512e6;
/** ms between two words about a frame that is being computed. */
const WORD_EVERY = 100;

export interface BakePlan {
  take: string;
  /** Frames to compute, in order. Those between are passed over, but not kept. */
  wanted: number[];
  /** Where these frames go on from a frame that another document led to: the take itself has it up to there. */
  /** The frame after which this document computes; null from the start of the shot. Before it the take is another document’s. */
  after: number | null;
  origin: { frame: number; shot: Shot; assets: Map<string, Mesh>; fingerprint: string } | null;
}

export interface BakeEvents {
  /** The frame that is being computed and how much of it is done, 0 to 1. */
  progress: (frame: number, share: number) => void;
  /** A frame that was wanted. Its positions are the listener’s. */
  frame: (frame: TimedFrame) => void;
  /** These frames are in the storage now. */
  kept: (frames: number[]) => void;
  /** The browser refused to keep frames; the bake goes on in memory and tries again. */
  refused: (problem: string) => void;
}

/**
 * Computes the wanted frames of a take, from its nearest checkpoints, until all are done or `stops` says so. Resolves to frames that
 * could not be kept.
 * @throws CompileError, RunStoppedError, TakeGoneError; what was computed before is kept
 */
export async function bakeTake(
  { shot, assets }: { shot: Shot; assets: Map<string, Mesh> },
  plan: BakePlan,
  events: BakeEvents,
  stops: () => boolean,
): Promise<number[]> {
  const keeper = new Keeper(plan.take, events);
  const wanted = new Set(plan.wanted);
  const last = plan.wanted.at(-1)!;
  let told = 0;
  let from = await startOf(plan, shot.firstFrame);
  let run = new BakeRun(shot, assets, from);
  let at = from ? from.frame : shot.firstFrame - 1;
  const heed: Heed = (share) => {
    if (performance.now() - told > WORD_EVERY) {
      told = performance.now();
      events.progress(at + 1, share);
    }
    return !stops();
  };
  try {
    while (at < last) {
      // Lets other work of this thread run, so that a stop is heard where memory cannot be shared.
      await new Promise((resolve) => setTimeout(resolve, 0));
      if (stops()) break;
      // Over many frames that are kept already, a later checkpoint is nearer.
      const next = plan.wanted.find((frame) => frame > at)!;
      if (next > at + CHECKPOINT_FRAMES) {
        from = await checkpointBefore(plan.take, next - 1);
        if (from && from.frame > at) {
          run = new BakeRun(shot, assets, from);
          at = from.frame;
        }
      }
      const started = performance.now();
      if (run.preRollLeft > 0) {
        if (!run.stepPreRoll(heed)) break;
        continue;
      }
      const baked = run.tryNext(heed);
      if (!baked) break;
      at = baked.frame;
      if (!wanted.has(at)) continue;
      const timed = { ...baked, seconds: (performance.now() - started) / 1000 };
      await keeper.add(timed, () => run.checkpoint());
    }
  } finally {
    await keeper.keep();
  }
  return keeper.unkept;
}

/** From where the first wanted frame is computed; undefined from the start of the shot. */
async function startOf({ take, wanted, origin, after }: BakePlan, first: number): Promise<BakeCheckpoint | undefined> {
  const next = wanted[0]!;
  const near = next > first ? await checkpointBefore(take, next - 1) : undefined;
  if (after === null || (near && near.frame >= after)) return near;
  if (!origin) {
    throw new Error(
      `This take goes on from frame ${after} of another one, and what was kept of the cloth there is missing. Go on from that frame of the other take once more.`,
    );
  }
  // The other document leads to where this one takes over.
  const run = new BakeRun(origin.shot, origin.assets, near);
  let reached: BakedFrame | null = null;
  while (run.checkpoint().frame < origin.frame) reached = run.next();
  if (reached && reached.stats.fingerprint !== origin.fingerprint) {
    throw new Error(
      `Frame ${origin.frame} does not come out as it was kept: it was baked by another version of Lumbra. Go on from frame ${near?.frame ?? first}, which needs nothing to be computed again.`,
    );
  }
  const checkpoint = run.checkpoint();
  try {
    await keepFrames(take, [], checkpoint);
  } catch (error) {
    throw new Error(storageProblem(error), { cause: error });
  }
  return checkpoint;
}

/** Keeps frames several at a time. */
class Keeper {
  readonly #take: string;
  readonly #events: BakeEvents;
  #waiting: TimedFrame[] = [];
  #checkpoint: BakeCheckpoint | null = null;
  #last = performance.now();
  #told = false;

  constructor(take: string, events: BakeEvents) {
    this.#take = take;
    this.#events = events;
  }

  get unkept(): number[] {
    return this.#waiting.map(({ frame }) => frame);
  }

  async add(frame: TimedFrame, checkpoint: () => BakeCheckpoint): Promise<void> {
    this.#waiting.push({ ...frame, positions: frame.positions.map((cloth) => cloth.slice()) });
    this.#events.frame(frame);
    const full = this.#waiting.length % KEPT_TOGETHER === 0;
    const due = performance.now() - this.#last > KEPT_AFTER;
    this.#checkpoint = checkpoint();
    if (full || due || frame.frame % CHECKPOINT_FRAMES === 0) await this.keep();
    const bytes = this.#waiting.reduce(
      (sum, { positions }) => sum + positions.reduce((s, p) => s + p.byteLength, 0),
      0,
    );
    if (bytes > MOST_UNKEPT) {
      throw new Error(
        `Stopped at frame ${frame.frame}: the browser has no room, and ${this.#waiting.length} frames wait in memory. Make room, then keep them and go on.`,
      );
    }
  }

  async keep(): Promise<void> {
    if (this.#waiting.length === 0) return;
    try {
      await keepFrames(this.#take, this.#waiting, this.#checkpoint);
      this.#events.kept(this.unkept);
      this.#waiting = [];
      this.#told = false;
    } catch (error) {
      if (error instanceof TakeGoneError) throw error;
      if (!this.#told) this.#events.refused(storageProblem(error));
      this.#told = true;
    }
    this.#last = performance.now();
  }
}
