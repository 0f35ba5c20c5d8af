import type { Constraint } from '../constraints/constraint';
import type { KernelMemory } from '../kernelMemory';
import type { HoldModel, TieModel } from '../model';

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

/** A soft grip on cloth: points around a place that follow it, the less the farther they are from its middle. */
export interface Grip {
  cloth: number;
  points: Uint32Array;
  /** 0 to 1, per point. */
  strengths: Float32Array;
  /** Where the points were when they were gripped, x y z in m. */
  places: Float32Array;
}

/** All holds and ties of a run. Places go from those at the beginning of a frame to those at its end in a straight line. */
export class Holds {
  readonly #memory: KernelMemory;
  #cloths: readonly HeldCloth[];
  readonly #carried: number;
  readonly #drawn: number;
  readonly #ties: number;
  #carriedCount = 0;
  #drawnCount = 0;
  readonly #tieCount: number;
  #fastest = 0;
  /** Where each hold was drawn to when the last frame ended, in their order; from there a changed hold goes on. */
  #ends: Float32Array[] = [];
  #changed = false;
  #grip: { address: number; room: number; held: Grip | null; from: number[]; to: number[] } = {
    ...{ address: 0, room: 0, held: null, from: [0, 0, 0], to: [0, 0, 0] },
  };
  #share = 0;

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
    return this.#tieCount > 0 || this.#grip.held !== null || this.#cloths.some(({ holds }) => holds.length > 0);
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
    this.#carriedCount = this.#drawnCount = 0;
    this.#fastest = 0;
    const ends: Float32Array[] = [];
    for (const { firstPoint, holds } of this.#cloths) {
      const taken = new Set<number>();
      for (const { points, placesAt, strengthsAt, slackAt, normalsAt } of holds) {
        const normals = normalsAt?.(to);
        const [end, strengths, slack] = [placesAt(to), strengthsAt(to), slackAt?.(to)];
        const start = this.#changed ? (this.#ends[ends.length] ?? end) : placesAt(from);
        ends.push(end);
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
          for (let axis = 0; axis < 3; axis++) values[3 + 4 * axis] = normals?.[i * 3 + axis] ?? 0;
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
    this.#ends = ends;
    this.#changed = false;
    this.#setTies(to, h);
    this.#setGrip(h);
  }

  /** Takes over holds and ties of the same points with other numbers. They go on from where they were. */
  take(cloths: readonly HeldCloth[]): void {
    this.#cloths = cloths;
    this.#changed = true;
  }

  /** Grips points, or lets them go. */
  grip(held: Grip | null): void {
    const grip = this.#grip;
    grip.held = held;
    grip.from = grip.to = [0, 0, 0];
    if (!held || held.points.length <= grip.room) return;
    grip.room = held.points.length;
    grip.address = this.#memory.allocate(grip.room * HOLD_WORDS * 4);
  }

  /** Takes what is gripped so far from where it was gripped, x y z in m, over the next frame. */
  moveGrip(by: readonly number[]): void {
    this.#grip.to = [...by];
  }

  #setGrip(h: number): void {
    const { held, address, from, to } = this.#grip;
    if (!held) return;
    const { firstPoint } = this.#cloths[held.cloth]!;
    held.points.forEach((point, i) => {
      const at = address + i * HOLD_WORDS * 4;
      this.#memory.integers(at, 1)[0] = (firstPoint + point) * 16;
      const values = this.#memory.floats(at, HOLD_WORDS);
      values[1] = giveOf(held.strengths[i]!, h);
      values[2] = values[3] = values[7] = values[11] = 0;
      for (let axis = 0; axis < 3; axis++) {
        values[4 + axis] = held.places[i * 3 + axis]! + from[axis]!;
        values[8 + axis] = held.places[i * 3 + axis]! + to[axis]!;
      }
    });
    this.#grip.from = to;
  }

  /** Takes carried points to where they are at a share of the frame, in a substep of h seconds; right after `predict`. */
  carry(p: number, d: number, e: number, v: number, h: number, share: number): void {
    this.#share = share;
    if (this.#carriedCount === 0) return;
    this.#memory.run.carryPoints(p, d, e, v, this.#carried, this.#carriedCount, this.#share, 1 / h);
  }

  /** What gives and what is tied, as a constraint on points and displacements at these addresses. */
  asConstraint(p: number, d: number): Constraint {
    const { run } = this.#memory;
    const ties = (firm: boolean) => {
      if (this.#tieCount > 0) run.solveTies(p, d, this.#ties, this.#tieCount, firm);
    };
    return {
      solve: () => {
        ties(false);
        if (this.#drawnCount > 0) run.solveHolds(p, d, this.#drawn, this.#drawnCount, this.#share);
        const { held, address } = this.#grip;
        if (held) run.solveHolds(p, d, address, held.points.length, this.#share);
      },
      // Firm ties once more: what came after them in the substep pulled at them.
      again: () => ties(true),
    };
  }

  #writeTies(firstPointOf: ReadonlyMap<string, number>): void {
    let n = 0;
    for (const { firstPoint, ties } of this.#cloths) {
      for (const { points, to, corners, weights } of ties) {
        const other = firstPointOf.get(to)!;
        points.forEach((point, i) => {
          const at = this.#ties + n++ * TIE_WORDS * 4;
          const offsets = [firstPoint + point, ...[0, 1, 2].map((corner) => other + corners[i * 3 + corner]!)];
          this.#memory.integers(at, 4).set(offsets.map((offset) => offset * 16));
          const values = this.#memory.floats(at, TIE_WORDS);
          values.set(weights.subarray(i * 3, i * 3 + 3), 4);
        });
      }
    }
  }

  #setTies(time: number, h: number): void {
    let n = 0;
    for (const { ties } of this.#cloths) {
      for (const { points, strengthsAt, lengthsAt } of ties) {
        const [strengths, lengths] = [strengthsAt(time), lengthsAt(time)];
        points.forEach((_, i) => {
          const values = this.#memory.floats(this.#ties + n++ * TIE_WORDS * 4, TIE_WORDS);
          values[7] = giveOf(strengths[i]!, h);
          values[8] = lengths[i]!;
        });
      }
    }
  }
}
