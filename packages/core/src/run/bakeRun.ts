import type { Assets } from '../shot/shapes';
import type { Shot } from '../shot/schema';
import type { Model } from '../solver/model';
import { UnstableError } from '../solver/solver';
import { activeCloths, compile } from './compile';
import type { BakedFrame, Heed } from './frame';
import { measureFrame } from './measureFrame';
import { withLiveTracks } from './liveTracks';
import { PacedSolver, type RunState } from './pacedSolver';

/** From where a bake can be gone on with: the frame, and the state of the run at it. */
export interface BakeCheckpoint {
  frame: number;
  state: RunState;
}

/** A run stopped on its own; the frames before it are sound. */
export class RunStoppedError extends Error {
  constructor(
    readonly frame: number,
    cloth: string,
  ) {
    super(
      `Stopped at frame ${frame}: “${cloth}” moved so fast that it could not be computed. The frames before are kept. Try more substeps, a lower wind, or a wider spacing.`,
    );
  }
}

/**
 * Runs a shot frame by frame. The first frame is the start (after the pre-roll); every further one is 1/rate
 * later. Same shot, same bits, wherever it runs and however often it is stopped and gone on with.
 *
 * @throws CompileError when the shot cannot be run
 */
export class BakeRun {
  readonly #shot: Shot;
  readonly #solver: PacedSolver;
  readonly #names: Map<string, string>;
  readonly #model: Model;
  /** The frame that `next` gives. */
  #frame: number;
  /** Pre-roll frames still to run. */
  #preRoll: number;
  #started: boolean;

  constructor(shot: Shot, assets: Assets, from?: BakeCheckpoint) {
    this.#shot = shot;
    const live = withLiveTracks(shot);
    this.#model = compile(live, assets);
    this.#solver = new PacedSolver(live, assets, this.#model);
    this.#names = new Map(activeCloths(shot).map((cloth) => [cloth.id, cloth.name]));
    this.#frame = from ? from.frame + 1 : shot.firstFrame;
    this.#preRoll = from ? 0 : shot.preRoll;
    this.#started = from !== undefined;
    if (from) this.#solver.restore(from.state);
  }

  /** Pre-roll frames that have to run before the first frame. */
  get preRollLeft(): number {
    return this.#preRoll;
  }

  /** Runs one frame of pre-roll; false where `heed` stopped it, and nothing has changed. */
  stepPreRoll(heed?: Heed): boolean {
    if (!this.#advance(heed)) return false;
    this.#preRoll--;
    return true;
  }

  /** Runs to the next frame and gives it. */
  next(): BakedFrame {
    return this.tryNext()!;
  }

  /** Runs to the next frame and gives it; null where `heed` stopped it in the middle, and the run is where it was before. */
  tryNext(heed?: Heed): BakedFrame | null {
    while (this.#preRoll > 0) if (!this.stepPreRoll(heed)) return null;
    if (this.#started && !this.#advance(heed)) return null;
    this.#started = true;
    const frame = this.#frame++;
    return measureFrame(this.#shot, this.#model, this.#solver, frame);
  }

  /** The state at the frame that `next` gave last. */
  checkpoint(): BakeCheckpoint {
    return { frame: this.#frame - 1, state: this.#solver.state() };
  }

  #advance(heed?: Heed): boolean {
    try {
      return this.#solver.advance(heed);
    } catch (error) {
      if (!(error instanceof UnstableError)) throw error;
      throw new RunStoppedError(this.#frame, this.#names.get(error.cloth) ?? error.cloth);
    }
  }
}

/**
 * The frames of a shot's range one by one, stopping when the signal says so between frames, or `heed` within one. Between frames it lets other work
 * of its thread run, so that a stop is heard.
 */
export async function* bakeFrames(
  run: BakeRun,
  lastFrame: number,
  signal?: AbortSignal,
  heed?: Heed,
): AsyncGenerator<BakedFrame> {
  for (;;) {
    await new Promise((resolve) => setTimeout(resolve, 0));
    if (signal?.aborted) return;
    if (run.preRollLeft > 0) {
      if (!run.stepPreRoll(heed)) return;
      continue;
    }
    const baked = run.tryNext(heed);
    if (!baked) return;
    yield baked;
    if (baked.frame >= lastFrame) return;
  }
}
