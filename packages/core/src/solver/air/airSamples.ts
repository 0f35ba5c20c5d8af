import { INTERVAL } from '../constraints/clothFabric';
import type { ClothState } from '../clothState';
import type { KernelMemory } from '../kernelMemory';
import type { AirField, SampledCloth } from '../model';

/** How often a frame the air is asked anew what it does where. Cloth at 5 m/s goes 5 cm meanwhile, and no eddy is as small. */
const LOOKS = 4;

/** What air does at each point, asked a few times a frame and kept in the kernel's memory: layouts in kernel/assembly/air.ts. */
export class AirSamples {
  /** Addresses; 0 where nothing of the kind is there. */
  readonly velocities: number;
  readonly pulls: number;
  readonly #memory: KernelMemory;
  #field: AirField;
  readonly #cloths: readonly ClothState[];
  readonly #points: number;
  readonly #velocity: number;
  #looked = -1;

  constructor(
    memory: KernelMemory,
    field: AirField,
    cloths: readonly ClothState[],
    count: number,
    at: { points: number; velocity: number },
  ) {
    this.#memory = memory;
    this.#field = field;
    this.#cloths = cloths;
    this.#points = at.points;
    this.#velocity = at.velocity;
    this.velocities = field.moves ? memory.allocate(count * 16) : 0;
    this.pulls = field.pulls ? memory.allocate(count * 32) : 0;
  }

  /** Takes another field over, which moves and draws wherever that of before did. */
  take(field: AirField): void {
    this.#field = field;
  }

  /** What was known is of the last frame, which a run that goes on from here has not seen. */
  beginFrame(): void {
    this.#looked = -1;
  }

  /** Before one of so many substeps of h seconds of a frame, counted from 0, that begins at a time in s. */
  sample(substep: number, substeps: number, h: number, time: number): void {
    const lookOf = (of: number) => Math.min(LOOKS - 1, Math.floor((of / substeps) * LOOKS));
    if (lookOf(substep) === this.#looked) return;
    const first = this.#looked === -1;
    this.#looked = lookOf(substep);
    // What is asked now acts until it is asked again.
    let next = substep + INTERVAL;
    while (next < substeps && lookOf(next) === this.#looked) next += INTERVAL;
    const cloths = this.#cloths.map((cloth) => this.#sampled(cloth));
    this.#field.sample(time, cloths, (Math.min(next, substeps) - substep) * h, first);
  }

  #sampled({ model, firstPoint, points, fabric }: ClothState): SampledCloth {
    const memory = this.#memory;
    const threes = (address: number) => {
      const source = memory.floats(address + firstPoint * 16, points * 4);
      const values = new Float32Array(points * 3);
      for (let i = 0; i < points; i++) {
        for (let axis = 0; axis < 3; axis++) values[i * 3 + axis] = source[i * 4 + axis]!;
      }
      return values;
    };
    const view = (address: number, numbers: number) =>
      address === 0
        ? new Float32Array(points * numbers)
        : memory.floats(address + firstPoint * numbers * 4, points * numbers);
    return {
      positions: threes(this.#points),
      velocities: threes(this.#velocity),
      id: model.id,
      triangles: model.rest.triangles,
      weight: fabric.weight,
      velocity: view(this.velocities, 4),
      pull: view(this.pulls, 8),
    };
  }
}
