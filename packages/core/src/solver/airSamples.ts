import type { ClothState } from './clothState';
import type { KernelMemory } from './kernelMemory';
import type { AirField, SampledCloth } from './model';

/** How often a frame the air is asked anew what it does where. Cloth at 5 m/s goes 5 cm meanwhile, and no eddy is as small. */
const LOOKS = 4;

/** What air does at each point, asked a few times a frame and kept in the kernel's memory: layouts in kernel/assembly/air.ts. */
export class AirSamples {
  /** Addresses; 0 where nothing of the kind is there. */
  readonly velocities: number;
  readonly pulls: number;
  readonly #memory: KernelMemory;
  readonly #field: AirField;
  readonly #cloths: readonly ClothState[];
  readonly #points: number;
  #looked = -1;

  constructor(memory: KernelMemory, field: AirField, cloths: readonly ClothState[], count: number, points: number) {
    this.#memory = memory;
    this.#field = field;
    this.#cloths = cloths;
    this.#points = points;
    this.velocities = field.moves ? memory.allocate(count * 16) : 0;
    this.pulls = field.pulls ? memory.allocate(count * 32) : 0;
  }

  /** What was known is of the last frame, which a run that goes on from here has not seen. */
  beginFrame(): void {
    this.#looked = -1;
  }

  /** Before a substep that ends at a share of its frame and begins at a time in s. */
  sample(share: number, time: number): void {
    const look = Math.min(LOOKS - 1, Math.floor(share * LOOKS));
    if (look === this.#looked) return;
    this.#looked = look;
    this.#field.sample(
      time,
      this.#cloths.map((cloth) => this.#sampled(cloth)),
    );
  }

  #sampled({ model, firstPoint, points, fabric }: ClothState): SampledCloth {
    const memory = this.#memory;
    const source = memory.floats(this.#points + firstPoint * 16, points * 4);
    const positions = new Float32Array(points * 3);
    for (let i = 0; i < points; i++) {
      for (let axis = 0; axis < 3; axis++) positions[i * 3 + axis] = source[i * 4 + axis]!;
    }
    const view = (address: number, numbers: number) =>
      address === 0
        ? new Float32Array(points * numbers)
        : memory.floats(address + firstPoint * numbers * 4, points * numbers);
    return {
      positions,
      triangles: model.rest.triangles,
      weight: fabric.weight,
      velocity: view(this.velocities, 4),
      pull: view(this.pulls, 8),
    };
  }
}
