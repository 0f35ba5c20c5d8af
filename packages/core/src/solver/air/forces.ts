import * as Pull from '@lumbra/kernel/layouts/air/pull';
import * as Point from '@lumbra/kernel/layouts/point';
import { length, type Vector3 } from '../../math/vector';
import { AirSamples } from './airSamples';
import { INTERVAL } from '../constraints/clothFabric';
import type { ClothState } from '../clothState';
import type { KernelMemory } from '../kernelMemory';
import type { AirModel } from '../model';

/**
 * Friction between yarns: slow motion is slowed by this many m/s^2 for each second of the fabric's damping, but never by more than
 * the most; below the slow speed in m/s in proportion to speed. With 8 ms it ends a swing of the crate cover's hem in
 * about a second. It acts on motion relative to that of the cloth as a whole.
 */
const SLOWING = 20;
const MOST_SLOWING = 0.4;
const SLOW_SPEED = 0.05;
/** The weight of weightless cloth, and its wind. Neither pressure nor what draws acts on it. */
const NOTHING: Vector3 = [0, 0, 0];

interface Addresses {
  points: number;
  velocity: number;
  acceleration: number;
}

/** What accelerates points besides constraints and contact: gravity, friction between yarns, pressure, air and what draws. */
export class Forces {
  readonly #memory: KernelMemory;
  readonly #cloths: readonly ClothState[];
  readonly #at: Addresses;
  readonly #samples: AirSamples | null;
  #air: AirModel;

  constructor(
    memory: KernelMemory,
    air: AirModel,
    cloths: readonly ClothState[],
    { count, ...at }: Addresses & { count: number },
  ) {
    this.#memory = memory;
    this.#cloths = cloths;
    this.#at = at;
    this.#air = air;
    this.#samples = air.field ? new AirSamples(memory, air.field, cloths, count, at) : null;
  }

  /** Takes other air over, which moves and draws wherever that of before did. */
  take(air: AirModel): void {
    this.#air = air;
    if (air.field) this.#samples?.take(air.field);
  }

  /** How strong gravity is at a time in s, in m/s². */
  gravityAt(time: number): number {
    return length(this.#gravity(time));
  }

  #gravity(time: number): Vector3 {
    return this.#air.gravityAt?.(time) ?? this.#air.gravity;
  }

  /** What is known of the air is of the last frame, which a run that goes on from here has not seen. */
  beginFrame(): void {
    this.#samples?.beginFrame();
  }

  /**
   * Sets the accelerations of the next substeps of h seconds, from one of so many of a frame, counted from 0, that begins at a time in s.
   */
  set(substep: number, substeps: number, h: number, time: number): void {
    this.#samples?.sample(substep, substeps, h, time);
    const interval = h * INTERVAL;
    const { run } = this.#memory;
    const gravity = this.#gravity(time);
    for (const { model, fabric, firstPoint, points, slowing } of this.#cloths) {
      if (model.given) continue;
      const { points: p, velocity: v, acceleration: a } = this.#at;
      const first = firstPoint * Point.BYTES;
      const most = SLOWING * fabric.damping;
      run.setGravity(p + first, a + first, points, ...(model.weightless ? NOTHING : gravity));
      if (most > 0)
        run.addYarnFriction(p + first, v + first, a + first, points, most, MOST_SLOWING, SLOW_SPEED, slowing);
    }
    for (const { model, fabric, airTriangles } of this.#cloths) {
      const { pressure } = fabric;
      if (pressure === 0 || model.weightless || airTriangles.count === 0) continue;
      run.addPressure(this.#at.points, this.#at.acceleration, airTriangles.address, airTriangles.count, pressure);
    }
    if (this.#air.density > 0) this.#addAir(this.#air.windAt(time), interval);
    // Last: a grip holds against all of that.
    this.#addPull(interval);
  }

  #addPull(interval: number): void {
    const pulls = this.#samples?.pulls ?? 0;
    if (pulls === 0) return;
    const { points: p, velocity: v, acceleration: a } = this.#at;
    for (const { model, firstPoint, points } of this.#cloths) {
      if (model.weightless) continue;
      const first = firstPoint * Point.BYTES;
      this.#memory.run.addPull(p + first, v + first, a + first, pulls + firstPoint * Pull.BYTES, points, interval);
    }
  }

  #addAir(wind: Vector3, interval: number): void {
    const velocities = this.#samples?.velocities ?? 0;
    for (const { model, fabric, airTriangles } of this.#cloths) {
      if ((fabric.airAcross === 0 && fabric.airAlong === 0) || airTriangles.count === 0) continue;
      this.#memory.run.addAir(
        this.#at.points,
        this.#at.velocity,
        this.#at.acceleration,
        airTriangles.address,
        airTriangles.count,
        ...(model.weightless ? NOTHING : wind),
        model.weightless ? 0 : velocities,
        this.#air.density,
        fabric.airAcross,
        fabric.airAlong,
        interval,
      );
    }
  }
}
