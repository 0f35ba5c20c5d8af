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
    const { address, count, rounds, scales } = this.#cloth.attachments;
    if (count === 0) return;
    const { points, displacement } = this.#at;
    this.#reachEachOther();
    this.#memory.run.solveAttachments(points, displacement, address, scales, rounds.address, rounds.count);
  }

  /**
   * Held points may be taken farther apart than the cloth between them is long. Attachments from both sides would then tear at a point in between; so all
   * that lead there reach as much farther, and the cloth stretches evenly.
   */
  #reachEachOther(): void {
    const { between, scales, groups, reach } = this.#cloth.attachments;
    const memory = this.#memory;
    const out = memory.floats(scales, groups).fill(reach);
    if (between.length === 0) return;
    const { points, displacement } = this.#at;
    const { firstPoint, points: count } = this.#cloth;
    const [places, moved] = [points, displacement].map((at) => memory.points(at, firstPoint, count)) as [
      Float32Array,
      Float32Array,
    ];
    for (const { group, own, other, distance } of between) {
      let square = 0;
      for (let axis = 0; axis < 3; axis++) {
        const [i, j] = [own * 4 + axis, other * 4 + axis];
        square += (places[i]! + moved[i]! - places[j]! - moved[j]!) ** 2;
      }
      const farther = Math.sqrt(square) / distance;
      if (farther > out[group]!) out[group] = farther;
    }
  }
}
