import { setBend } from './clothFabric';
import type { ClothState } from '../clothState';
import type { KernelMemory } from '../kernelMemory';
import type { Constraint, PointAddresses } from './constraint';

/** Resistance of a cloth to bending: of what was cut flat, and about hinges that are folded at rest. */
export class Bend implements Constraint {
  readonly #memory: KernelMemory;
  readonly #cloth: ClothState;
  readonly #at: PointAddresses;

  constructor(memory: KernelMemory, cloth: ClothState, at: PointAddresses) {
    this.#memory = memory;
    this.#cloth = cloth;
    this.#at = at;
  }

  setStep(h: number): void {
    setBend(this.#memory, this.#cloth, h);
  }

  solve(): void {
    const { run } = this.#memory;
    const { points, displacement } = this.#at;
    const { flat, angle } = this.#cloth.bend;
    run.solveBendFlat(points, displacement, flat.address, flat.count);
    if (angle.count > 0) run.solveBendAngle(points, displacement, angle.address, angle.count);
  }

  damp(share: number): void {
    const { run } = this.#memory;
    const { points, residual, velocity } = this.#at;
    const { flat, angle } = this.#cloth.bend;
    run.dampBendFlat(points, velocity, flat.address, flat.count, share);
    if (angle.count > 0) run.dampBendAngle(points, residual, velocity, angle.address, angle.count, share);
  }
}
