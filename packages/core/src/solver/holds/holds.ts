import * as HoldRecord from '@lumbra/kernel/layouts/holds/hold';
import * as TieRecord from '@lumbra/kernel/layouts/holds/tie';
import * as Point from '@lumbra/kernel/layouts/point';
import type { Constraint } from '../constraints/constraint';
import type { KernelMemory } from '../kernelMemory';
import type { HoldModel, TieModel } from '../model';

// Holds and ties in the kernel.

const NORMAL = [HoldRecord.NORMAL_X, HoldRecord.NORMAL_Y, HoldRecord.NORMAL_Z];
const CORNERS = [TieRecord.CORNER_0, TieRecord.CORNER_1, TieRecord.CORNER_2];
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

/**
 * A carried point that is farther than this from where its hold is as a frame begins, in m, goes on from where it is: at the first frame, where a pin is
 * placed elsewhere than the cloth, or where it takes hold later. In the first substep alone it would come with thousands of m/s.
 */
const ELSEWHERE = 1e-4;

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
    this.#carried = memory.allocate(holds * HoldRecord.BYTES);
    this.#drawn = memory.allocate(holds * HoldRecord.BYTES);
    this.#ties = memory.allocate(this.#tieCount * TieRecord.BYTES);
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

  /** Sets where everything is drawn to in a frame from one time to another in s, in substeps of h seconds; `points` is the address of where it is. */
  beginFrame(from: number, to: number, h: number, points: number): void {
    this.#share = 0;
    this.#carriedCount = this.#drawnCount = 0;
    this.#fastest = 0;
    const ends: Float32Array[] = [];
    for (const { firstPoint, points: count, holds } of this.#cloths) {
      const taken = new Set<number>();
      const now = this.#memory.points(points, firstPoint, count);
      for (const { points: held, placesAt, strengthsAt, slackAt, normalsAt } of holds) {
        const normals = normalsAt?.(to);
        const [end, strengths, slack] = [placesAt(to), strengthsAt(to), slackAt?.(to)];
        const start = this.#changed ? (this.#ends[ends.length] ?? end) : placesAt(from);
        ends.push(end);
        held.forEach((point, i) => {
          const free = slack?.[i] ?? 0;
          const strength = strengths[i]!;
          if (strength <= 0 || taken.has(point)) return;
          const carries = strength >= 1 && free === 0;
          if (carries) taken.add(point);
          const at = carries
            ? this.#carried + this.#carriedCount++ * HoldRecord.BYTES
            : this.#drawn + this.#drawnCount++ * HoldRecord.BYTES;
          const record = this.#memory.records(at, HoldRecord.BYTES);
          record.setInteger(0, HoldRecord.POINT, (firstPoint + point) * Point.BYTES);
          record.setFloat(0, HoldRecord.GIVE, carries ? 1 : giveOf(Math.min(strength, free > 0 ? 1 : 0.9999), h));
          record.setFloat(0, HoldRecord.SLACK, free);
          NORMAL.forEach((field, axis) => record.setFloat(0, field, normals?.[i * 3 + axis] ?? 0));
          const [given, to3] = [start, end].map((places) => places.subarray(i * 3, i * 3 + 3)) as [
            Float32Array,
            Float32Array,
          ];
          const at3 = now.subarray(point * 4, point * 4 + 3);
          const from3 = carries && distance(at3, given) > ELSEWHERE ? at3 : given;
          record.setFloats(0, HoldRecord.FROM, from3);
          record.setFloats(0, HoldRecord.TO, to3);
          if (carries) this.#fastest = Math.max(this.#fastest, distance(from3, to3) / (to - from));
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
    grip.address = this.#memory.allocate(grip.room * HoldRecord.BYTES);
  }

  /** Takes what is gripped so far from where it was gripped, x y z in m, over the next frame. */
  moveGrip(by: readonly number[]): void {
    this.#grip.to = [...by];
  }

  #setGrip(h: number): void {
    const { held, address, from, to } = this.#grip;
    if (!held) return;
    const { firstPoint } = this.#cloths[held.cloth]!;
    const records = this.#memory.records(address, HoldRecord.BYTES, held.points.length);
    held.points.forEach((point, i) => {
      records.setInteger(i, HoldRecord.POINT, (firstPoint + point) * Point.BYTES);
      records.setFloat(i, HoldRecord.GIVE, giveOf(held.strengths[i]!, h));
      for (const field of [HoldRecord.SLACK, ...NORMAL]) records.setFloat(i, field, 0);
      const moved = (by: readonly number[]) => by.map((far, axis) => held.places[i * 3 + axis]! + far);
      records.setFloats(i, HoldRecord.FROM, moved(from));
      records.setFloats(i, HoldRecord.TO, moved(to));
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
    const records = this.#memory.records(this.#ties, TieRecord.BYTES, this.#tieCount);
    let n = 0;
    for (const { firstPoint, ties } of this.#cloths) {
      for (const { points, to, corners, weights } of ties) {
        const other = firstPointOf.get(to)!;
        points.forEach((point, i) => {
          records.setInteger(n, TieRecord.POINT, (firstPoint + point) * Point.BYTES);
          CORNERS.forEach((field, corner) => {
            records.setInteger(n, field, (other + corners[i * 3 + corner]!) * Point.BYTES);
          });
          records.setFloats(n, TieRecord.WEIGHT_0, weights.subarray(i * 3, i * 3 + 3));
          n++;
        });
      }
    }
  }

  #setTies(time: number, h: number): void {
    const records = this.#memory.records(this.#ties, TieRecord.BYTES, this.#tieCount);
    let n = 0;
    for (const { ties } of this.#cloths) {
      for (const { points, strengthsAt, lengthsAt } of ties) {
        const [strengths, lengths] = [strengthsAt(time), lengthsAt(time)];
        points.forEach((_, i) => {
          records.setFloat(n, TieRecord.GIVE, giveOf(strengths[i]!, h));
          records.setFloat(n, TieRecord.LENGTH, lengths[i]!);
          n++;
        });
      }
    }
  }
}

function distance(a: Float32Array, b: Float32Array): number {
  let square = 0;
  for (let axis = 0; axis < 3; axis++) square += (a[axis]! - b[axis]!) ** 2;
  return Math.sqrt(square);
}
