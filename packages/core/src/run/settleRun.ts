import type { Assets } from '../shot/shapes';
import type { Shot } from '../shot/schema';
import type { Model } from '../solver/model';
import type { BakedFrame, Heed } from './frame';
import { activeCloths, compile } from './compile';
import { measureFrame } from './measureFrame';
import { PacedSolver } from './pacedSolver';

/** Cloth whose points move slower than this on average, in m/s, is at rest. */
export const REST_SPEED = 0.005;
/** After this many steps of falling a settle gives up waiting. */
const MOST_STEPS = 200;
/** The first steps are slow because the fall has only begun. */
const FIRST_STEPS = 6;
const STEP_SECONDS = 1 / 24;
/** It has to be at rest for this many steps in a row. */
const REST_STEPS = 4;

export interface SettleStep {
  step: number;
  positions: Float32Array<ArrayBuffer>[];
  /** Root mean square speed of the points, weighted by mass, in m/s. */
  speed: number;
  maxStretch: number;
  meanStretch: number;
  atRest: boolean;
}

/**
 * Lets the cloth of a shot fall to rest, without the timeline and in steady wind. Whenever its kinetic energy has begun
 * to fall, motion is taken out (kinetic damping as in dynamic relaxation; Barnes 1999), so that it rests
 * sooner than it would by itself but still falls as it must.
 */
export class SettleRun {
  readonly #shot: Shot;
  readonly #model: Model;
  readonly #solver: PacedSolver;
  readonly #mass: number;
  #step = 0;
  /** Steps since it began to fall: once its seams are closed. */
  #falling = 0;
  #resting = 0;
  #energy = 0;

  constructor(shot: Shot, assets: Assets) {
    // Nothing moves while cloth settles: all things stand where they are at the first frame.
    this.#model = compile(shot, assets, { still: shot.firstFrame });
    this.#shot = shot;
    this.#solver = new PacedSolver({ ...shot, frameRate: 1 / STEP_SECONDS }, assets, this.#model, { cued: false });
    this.#mass = Math.max(this.#solver.solver.mass(), 1e-9);
  }

  /** The cloth as it lies now, as the first frame of the shot. */
  still(): BakedFrame {
    return measureFrame(this.#shot, this.#model, this.#solver, this.#shot.firstFrame);
  }

  /** Whether it has fallen for so long that it is not waited for any more. */
  get isSpent(): boolean {
    return this.#falling >= MOST_STEPS;
  }

  /** Runs one step. */
  next(): SettleStep {
    return this.tryNext()!;
  }

  /** Runs one step; null where `heed` stopped it in the middle, and the cloth is where it was before. */
  tryNext(heed?: Heed): SettleStep | null {
    if (!this.#solver.advance(heed)) return null;
    const { kineticEnergy, stretch } = this.#solver.measured().measures;
    if (kineticEnergy < this.#energy) this.#solver.calm(0.7);
    this.#energy = kineticEnergy;
    const speed = Math.sqrt((2 * kineticEnergy) / this.#mass);
    this.#step++;
    this.#falling = this.#solver.drawsTogether ? 0 : this.#falling + 1;
    this.#resting = this.#falling > FIRST_STEPS && speed < REST_SPEED ? this.#resting + 1 : 0;
    return {
      step: this.#step,
      positions: activeCloths(this.#shot).map((_, i) => this.#solver.solver.positions(i)),
      speed,
      maxStretch: stretch.largest,
      meanStretch: stretch.mean,
      atRest: this.#resting >= REST_STEPS,
    };
  }
}
