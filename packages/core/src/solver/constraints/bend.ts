import * as Point from '@lumbra/kernel/layouts/point';
import { INTERVAL, setBend } from './clothFabric';
import type { ClothState } from '../clothState';
import type { KernelMemory } from '../kernelMemory';
import type { Constraint, PointAddresses } from './constraint';
import { foldOf, restoreCreases, saveCreases, setCurl } from './curl';

/**
 * Resistance of a cloth to bending: of what was cut flat, with its curl and the creases that it keeps, and about hinges that are folded
 * at rest.
 */
export class Bend implements Constraint {
  readonly #memory: KernelMemory;
  readonly #cloth: ClothState;
  readonly #at: PointAddresses;
  /** Between two dampings, in s. */
  #interval = 0;

  constructor(memory: KernelMemory, cloth: ClothState, at: PointAddresses) {
    this.#memory = memory;
    this.#cloth = cloth;
    this.#at = at;
  }

  setStep(h: number): void {
    this.#interval = h * INTERVAL;
    setBend(this.#memory, this.#cloth, h);
    setCurl(this.#memory, this.#cloth);
  }

  solve(): void {
    const { run } = this.#memory;
    const { points, displacement } = this.#at;
    const { bend, curl, airTriangles, firstPoint, points: count } = this.#cloth;
    const { flat, angle } = bend;
    if (curl.any) {
      const { address, count: faces } = airTriangles;
      run.pointNormals(points, displacement, curl.normals, firstPoint * Point.BYTES, count, address, faces);
      const { starts } = flat;
      run.solveBendCurled(points, displacement, flat.address, starts.address, starts.count, curl.wanted, curl.normals);
    } else run.solveBendFlat(points, displacement, flat.address, flat.starts.address, flat.starts.count);
    if (angle.count > 0) {
      run.solveBendAngle(points, displacement, angle.address, angle.starts.address, angle.starts.count);
    }
  }

  damp(share: number): void {
    const { run } = this.#memory;
    const { points, residual, velocity } = this.#at;
    const { fabric, curl } = this.#cloth;
    const { flat, angle } = this.#cloth.bend;
    if (curl.any && fabric.creaseMemory > 0) {
      const rate = Math.min(1, (share * this.#interval) / Math.max(fabric.creaseTime, 1e-9));
      const limit = foldOf(fabric.creaseAngle);
      run.keepCreases(points, residual, flat.address, flat.count, curl.wanted, curl.normals, limit, rate);
    }
    run.dampBendFlat(points, velocity, flat.address, flat.starts.address, flat.starts.count, share);
    if (angle.count > 0) {
      const { address, starts } = angle;
      run.dampBendAngle(points, residual, velocity, address, starts.address, starts.count, share);
    }
  }

  save(): Uint8Array {
    return saveCreases(this.#memory, this.#cloth);
  }

  restore(saved: Uint8Array): void {
    restoreCreases(this.#memory, this.#cloth, saved);
  }
}
