import {
  activeCloths,
  compile,
  measureFrame,
  PacedSolver,
  sewnAlike,
  withLiveTracks,
  type BakedFrame,
  type Heed,
  type Mesh,
  type Model,
  type RunState,
  type Shot,
} from '@lumbra/core';

export interface LivePose {
  /** Ids of the cloths, in the order of `positions`. */
  cloths: string[];
  positions: Float32Array<ArrayBuffer>[];
  /** Seconds since the live run began. */
  time: number;
  maxStretch: number;
  /** Times of the checkpoints that can be gone back to, in s. */
  checkpoints: number[];
  /** How many points each cue has reached, by its id; nothing where there are no cues. */
  cues?: Record<string, number>;
}

/** More checkpoints than these are forgotten, the oldest first but for the very first. */
const MOST_CHECKPOINTS = 20;

/** Cloth that runs without the timeline, is changed while it runs, pulled by hand, and taken back to a checkpoint. */
export class LiveRun {
  #shot: Shot;
  #assets: Map<string, Mesh>;
  #model: Model;
  #solver: PacedSolver;
  #waiting: { shot: Shot; assets: Map<string, Mesh> } | null = null;
  #checkpoints: RunState[];

  constructor(shot: Shot, assets: Map<string, Mesh>) {
    this.#shot = shot;
    this.#assets = assets;
    const cued = withLiveTracks(shot);
    this.#model = compile(cued, assets);
    this.#solver = new PacedSolver(cued, assets, this.#model, { live: true });
    this.#checkpoints = [this.#solver.state()];
  }

  get frameRate(): number {
    return this.#shot.frameRate;
  }

  /** Runs one frame on. */
  next(): LivePose {
    return this.tryNext()!;
  }

  /** Runs one frame on; null where `heed` stopped it in the middle, and the cloth is where it was before. */
  tryNext(heed?: Heed): LivePose | null {
    if (this.#waiting) this.#takeOver(this.#waiting);
    this.#waiting = null;
    if (!this.#solver.advance(heed)) return null;
    const cloths = activeCloths(this.#shot).map(({ id }) => id);
    const cues = this.#solver.cueCounts();
    return {
      cloths,
      positions: cloths.map((_, i) => this.#solver.solver.positions(i)),
      time: this.#solver.solver.time,
      maxStretch: this.#solver.measured().measures.stretch.largest,
      checkpoints: this.#checkpoints.map(({ time }) => time),
      ...(cues && { cues }),
    };
  }

  /** The cloth as it is now, as the first frame of the shot. */
  still(): BakedFrame {
    return measureFrame(this.#shot, this.#model, this.#solver, this.#shot.firstFrame);
  }

  /** Changes the shot; taken over before the next frame, so that only the newest of many changes is computed. */
  update(shot: Shot, assets: Map<string, Mesh>): void {
    this.#waiting = { shot, assets };
  }

  #takeOver({ shot, assets }: { shot: Shot; assets: Map<string, Mesh> }): void {
    const [before, modelBefore] = [this.#shot, this.#model];
    this.#shot = shot;
    this.#assets = assets;
    const cued = withLiveTracks(shot);
    const model = (this.#model = compile(cued, assets));
    if (this.#solver.take(cued, assets, model)) return;
    const changed = new PacedSolver(cued, assets, model, { live: true });
    try {
      // Sewn otherwise, it starts anew: what has become one cannot be parted.
      if (!sewnAlike(modelBefore, model)) throw new RangeError('sewn otherwise');
      if (activeCloths(shot).length === activeCloths(before).length) changed.restore(this.#solver.state());
    } catch (error) {
      // Another number of points: the cloth starts anew, and what was kept of the old one fits no more.
      if (!(error instanceof RangeError)) throw error;
      this.#checkpoints = [changed.state()];
    }
    this.#solver = changed;
  }

  grip(cloth: string, place: number[], radius: number): void {
    const at = activeCloths(this.#shot).findIndex(({ id }) => id === cloth);
    if (at >= 0) this.#solver.solver.grip(at, place, radius);
  }

  moveGrip(by: number[] | null): void {
    if (by) this.#solver.solver.moveGrip(by);
    else this.#solver.solver.letGo();
  }

  /** Keeps the run as it is now, to come back to. */
  checkpoint(): void {
    const [first, ...others] = [...this.#checkpoints, this.#solver.state()];
    this.#checkpoints = [first!, ...others.slice(-MOST_CHECKPOINTS)];
  }

  /** Goes back to the last checkpoint; with `further` that one is dropped first, and it goes to the one before. */
  back(further: boolean): void {
    if (further && this.#checkpoints.length > 1) this.#checkpoints.pop();
    try {
      this.#solver.solver.letGo();
      this.#solver.restore(this.#checkpoints.at(-1)!);
    } catch (error) {
      // Kept before the cloth had other points.
      if (!(error instanceof RangeError)) throw error;
      const cued = withLiveTracks(this.#shot);
      this.#model = compile(cued, this.#assets);
      this.#solver = new PacedSolver(cued, this.#assets, this.#model, { live: true });
      this.#checkpoints = [this.#solver.state()];
    }
  }
}
