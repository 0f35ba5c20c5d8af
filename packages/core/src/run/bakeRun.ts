import type { Assets } from '../shot/shapes';
import type { Shot } from '../shot/schema';
import { Solver, UnstableError, type SolverState } from '../solver/solver';
import { activeCloths, compile, substepsOf } from './compile';
import { frameFingerprint } from './fingerprint';

/** The numbers of one baked frame. */
export interface FrameStats {
  /** Seconds since the first frame. */
  seconds: number;
  /** J */
  kineticEnergy: number;
  /** Share, over all faces, along warp and weft. */
  meanStretch: number;
  maxStretch: number;
  /** m/s */
  fastest: number;
  /** Places where cloth touches something. */
  contacts: number;
  /** Edges that pass through triangles, counted exactly. */
  crossings: number;
  /** How far cloth is inside a collider's surface at most, in m, and the id of that collider; 0 where it keeps off all. */
  deepest: number;
  deepestIn: string | null;
  deepestAt: [number, number, number] | null;
  /** Where the largest stretch is, and where the first crossing, x y z in m. */
  stretchAt: [number, number, number] | null;
  crossingAt: [number, number, number] | null;
  fingerprint: string;
}

export interface BakedFrame {
  frame: number;
  /** Per cloth in the run, in the order of the cast: x y z in metres. */
  positions: Float32Array<ArrayBuffer>[];
  stats: FrameStats;
}

/** From where a bake can be gone on with: the frame, and the solver's state at it. */
export interface BakeCheckpoint {
  frame: number;
  state: SolverState;
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
  readonly substeps: number;
  readonly #shot: Shot;
  readonly #solver: Solver;
  readonly #names: Map<string, string>;
  readonly #colliders: string[];
  /** The frame that `next` gives. */
  #frame: number;
  /** Pre-roll frames still to run. */
  #preRoll: number;
  #started: boolean;

  constructor(shot: Shot, assets: Assets, from?: BakeCheckpoint) {
    this.#shot = shot;
    const model = compile(shot, assets);
    this.#solver = new Solver(model);
    this.#colliders = model.colliders.map(({ id }) => id);
    this.substeps = substepsOf(shot, assets);
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

  /** Runs one frame of pre-roll. */
  stepPreRoll(): void {
    this.#advance();
    this.#preRoll--;
  }

  /** Runs to the next frame and gives it. */
  next(): BakedFrame {
    while (this.#preRoll > 0) this.stepPreRoll();
    if (this.#started) this.#advance();
    this.#started = true;
    const frame = this.#frame++;
    const positions = activeCloths(this.#shot).map((_, i) => this.#solver.positions(i));
    const measures = this.#solver.measure();
    return {
      frame,
      positions,
      stats: {
        seconds: (frame - this.#shot.firstFrame) / this.#shot.frameRate,
        kineticEnergy: measures.kineticEnergy,
        meanStretch: measures.stretch.mean,
        maxStretch: measures.stretch.largest,
        fastest: measures.fastest,
        contacts: measures.contacts,
        stretchAt: measures.stretch.place,
        ...this.#problems(),
        fingerprint: frameFingerprint(positions),
      },
    };
  }

  /** What the problem finder measures besides: crossings, and how deep cloth is in colliders. */
  #problems(): Pick<FrameStats, 'crossings' | 'crossingAt' | 'deepest' | 'deepestIn' | 'deepestAt'> {
    const { count, places } = this.#solver.crossings();
    const depths = this.#solver.depths();
    const deepest = Math.max(0, ...depths.map(({ depth }) => depth));
    const which = deepest > 0 ? depths.findIndex(({ depth }) => depth === deepest) : -1;
    return {
      crossings: count,
      crossingAt: count > 0 ? [places[0]!, places[1]!, places[2]!] : null,
      deepest,
      deepestIn: which < 0 ? null : this.#colliders[which]!,
      deepestAt: which < 0 ? null : depths[which]!.place,
    };
  }

  /** The state at the frame that `next` gave last. */
  checkpoint(): BakeCheckpoint {
    return { frame: this.#frame - 1, state: this.#solver.state() };
  }

  #advance(): void {
    try {
      this.#solver.advance(1 / this.#shot.frameRate, this.substeps);
    } catch (error) {
      if (!(error instanceof UnstableError)) throw error;
      throw new RunStoppedError(this.#frame, this.#names.get(error.cloth) ?? error.cloth);
    }
  }
}

/**
 * The frames of a shot's range one by one, stopping when the signal says so. Between frames it lets other work
 * of its thread run, so that a stop is heard.
 */
export async function* bakeFrames(run: BakeRun, lastFrame: number, signal?: AbortSignal): AsyncGenerator<BakedFrame> {
  for (;;) {
    await new Promise((resolve) => setTimeout(resolve, 0));
    if (signal?.aborted) return;
    if (run.preRollLeft > 0) {
      run.stepPreRoll();
      continue;
    }
    const baked = run.next();
    yield baked;
    if (baked.frame >= lastFrame) return;
  }
}
