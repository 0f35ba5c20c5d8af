import type { KernelMemory } from './kernelMemory';
import type { HoldModel, TieModel } from './model';

// Holds and ties in the kernel; the layouts are in kernel/assembly/hold.ts.

const HOLD_WORDS = 12;
const TIE_WORDS = 12;
/** What a strength just below 1 pulls with: the acceleration in 1/s² per m of distance is the square of this rate. */
const FASTEST_RATE = 300;

export interface HeldCloth {
  firstPoint: number;
  points: number;
  holds: readonly HoldModel[];
  ties: readonly TieModel[];
}

/**
 * How much of its way back a point of a strength goes in a substep: an implicit step of a spring whose stiffness is in proportion to
 * the point's mass, so that it neither depends on the number of substeps nor can overshoot. 1 goes all the way.
 */
export function giveOf(strength: number, h: number): number {
  if (strength >= 1) return 1;
  const pull = (FASTEST_RATE * strength * strength * h) ** 2;
  return pull / (1 + pull);
}

/** All holds and ties of a run. Places go from those at the beginning of a frame to those at its end in a straight line. */
export class Holds {
  readonly #memory: KernelMemory;
  readonly #cloths: readonly HeldCloth[];
  readonly #carried: number;
  readonly #drawn: number;
  readonly #ties: number;
  #carriedCount = 0;
  #drawnCount = 0;
  readonly #tieCount: number;
  #fastest = 0;
  #share = 0;
  #step = 1;

  constructor(memory: KernelMemory, cloths: readonly HeldCloth[], firstPointOf: ReadonlyMap<string, number>) {
    this.#memory = memory;
    this.#cloths = cloths;
    const holds = cloths.reduce(
      (sum, cloth) => sum + cloth.holds.reduce((all, { points }) => all + points.length, 0),
      0,
    );
    this.#tieCount = cloths.reduce(
      (sum, cloth) => sum + cloth.ties.reduce((all, { points }) => all + points.length, 0),
      0,
    );
    this.#carried = memory.allocate(holds * HOLD_WORDS * 4);
    this.#drawn = memory.allocate(holds * HOLD_WORDS * 4);
    this.#ties = memory.allocate(this.#tieCount * TIE_WORDS * 4);
    this.#writeTies(firstPointOf);
  }

  /** Whether there is anything to do. */
  get any(): boolean {
    return this.#tieCount > 0 || this.#cloths.some(({ holds }) => holds.length > 0);
  }

  /** The greatest speed of a carried point in the frame, in m/s. */
  get fastest(): number {
    return this.#fastest;
  }

  /** Points of a cloth that are carried at a time in s. */
  carriedAt(cloth: number, time: number): Set<number> {
    const carried = new Set<number>();
    for (const { points, strengthsAt, slackAt } of this.#cloths[cloth]!.holds) {
      const [strengths, slack] = [strengthsAt(time), slackAt?.(time)];
      points.forEach((point, i) => {
        if (strengths[i]! >= 1 && !((slack?.[i] ?? 0) > 0)) carried.add(point);
      });
    }
    return carried;
  }

  /** Sets where everything is drawn to in a frame from one time to another in s, in substeps of h seconds. */
  beginFrame(from: number, to: number, h: number): void {
    this.#share = 0;
    this.#step = h / (to - from);
    this.#carriedCount = this.#drawnCount = 0;
    this.#fastest = 0;
    for (const { firstPoint, holds } of this.#cloths) {
      const taken = new Set<number>();
      for (const { points, placesAt, strengthsAt, slackAt } of holds) {
        const [start, end, strengths, slack] = [placesAt(from), placesAt(to), strengthsAt(to), slackAt?.(to)];
        points.forEach((point, i) => {
          const free = slack?.[i] ?? 0;
          const strength = strengths[i]!;
          if (strength <= 0 || taken.has(point)) return;
          const carries = strength >= 1 && free === 0;
          if (carries) taken.add(point);
          const at = carries
            ? this.#carried + this.#carriedCount++ * HOLD_WORDS * 4
            : this.#drawn + this.#drawnCount++ * HOLD_WORDS * 4;
          this.#memory.integers(at, 1)[0] = (firstPoint + point) * 16;
          const values = this.#memory.floats(at, HOLD_WORDS);
          values[1] = carries ? 1 : giveOf(Math.min(strength, free > 0 ? 1 : 0.9999), h);
          values[2] = free;
          let square = 0;
          for (let axis = 0; axis < 3; axis++) {
            values[4 + axis] = start[i * 3 + axis]!;
            values[8 + axis] = end[i * 3 + axis]!;
            square += (values[8 + axis]! - values[4 + axis]!) ** 2;
          }
          if (carries) this.#fastest = Math.max(this.#fastest, Math.sqrt(square) / (to - from));
        });
      }
    }
    this.#setTieStrengths(to, h);
  }

  /** Takes carried points on by a substep; right after `predict`. */
  carry(p: number, d: number, e: number, v: number, h: number): void {
    this.#share = Math.min(1, this.#share + this.#step);
    if (this.#carriedCount === 0) return;
    this.#memory.run.carryPoints(p, d, e, v, this.#carried, this.#carriedCount, this.#share, 1 / h);
  }

  /** Draws what gives, and what is tied. */
  solve(p: number, d: number): void {
    if (this.#tieCount > 0) this.#memory.run.solveTies(p, d, this.#ties, this.#tieCount);
    if (this.#drawnCount > 0) this.#memory.run.solveHolds(p, d, this.#drawn, this.#drawnCount, this.#share);
  }

  #writeTies(firstPointOf: ReadonlyMap<string, number>): void {
    let n = 0;
    for (const { firstPoint, ties } of this.#cloths) {
      for (const { points, to, corners, weights, lengths } of ties) {
        const other = firstPointOf.get(to)!;
        points.forEach((point, i) => {
          const at = this.#ties + n++ * TIE_WORDS * 4;
          const offsets = [firstPoint + point, ...[0, 1, 2].map((corner) => other + corners[i * 3 + corner]!)];
          this.#memory.integers(at, 4).set(offsets.map((offset) => offset * 16));
          const values = this.#memory.floats(at, TIE_WORDS);
          values.set(weights.subarray(i * 3, i * 3 + 3), 4);
          values[8] = lengths[i]!;
        });
      }
    }
  }

  #setTieStrengths(time: number, h: number): void {
    let n = 0;
    for (const { ties } of this.#cloths) {
      for (const { points, strengthsAt } of ties) {
        const strengths = strengthsAt(time);
        points.forEach((_, i) => {
          this.#memory.floats(this.#ties + n++ * TIE_WORDS * 4, TIE_WORDS)[7] = giveOf(strengths[i]!, h);
        });
      }
    }
  }
}
