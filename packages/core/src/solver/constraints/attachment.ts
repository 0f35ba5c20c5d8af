import type { ClothState } from '../clothState';
import type { KernelMemory } from '../kernelMemory';
import type { Constraint, PointAddresses } from './constraint';

/** How far the points of a cloth may come from those that are held, at most (Kim et al. 2012 “Long Range Attachments”). */
export class Attachment implements Constraint {
  readonly #memory: KernelMemory;
  readonly #cloth: ClothState;
  readonly #at: PointAddresses;

  constructor(memory: KernelMemory, cloth: ClothState, at: PointAddresses) {
    this.#memory = memory;
    this.#cloth = cloth;
    this.#at = at;
  }

  solve(): void {
    const { address, count, rounds } = this.#cloth.attachments;
    if (count === 0) return;
    const { points, displacement } = this.#at;
    this.#memory.run.solveAttachments(points, displacement, address, rounds.address, rounds.count);
  }
}
