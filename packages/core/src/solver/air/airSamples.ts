import * as Point from '@lumbra/kernel/layouts/point';
import * as Wave from '@lumbra/kernel/layouts/air/wave';
import * as Pull from '@lumbra/kernel/layouts/air/pull';
import { WAVE_NUMBERS, WAVES } from '../../air/eddies';
import { meanSpacing } from '../../mesh/meanSpacing';
import { INTERVAL } from '../constraints/clothFabric';
import type { ClothState } from '../clothState';
import type { KernelMemory } from '../kernelMemory';
import type { AirField, SampledCloth } from '../model';

/** How often a frame the air is asked anew what it does where. Cloth at 5 m/s goes 5 cm meanwhile, and no eddy is as small. */
const LOOKS = 4;
/** As often suffices for cloth that in a frame goes no farther than so many m, which is less than the smallest eddies are wide. */
const QUIET_LOOKS = 2;
const QUIET = 0.02;

/** What air does at each point, asked a few times a frame and kept in the kernel's memory. */
export class AirSamples {
  /** Addresses; 0 where nothing of the kind is there. */
  readonly velocities: number;
  readonly pulls: number;
  readonly #memory: KernelMemory;
  #field: AirField;
  readonly #cloths: readonly ClothState[];
  readonly #points: number;
  readonly #velocity: number;
  readonly #waves: number;
  readonly #speeds: number;
  readonly #count: number;
  #looks = LOOKS;
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
    this.#count = count;
    this.#points = at.points;
    this.#velocity = at.velocity;
    // Eddies are added to four points at a time, and so to up to three beyond the last.
    this.velocities = field.moves ? memory.allocate((count + 3) * Point.BYTES) : 0;
    this.#waves = field.moves ? memory.allocate(WAVES * Wave.BYTES) : 0;
    this.#speeds = field.moves ? memory.allocate((count + 3) * 4) : 0;
    this.pulls = field.pulls ? memory.allocate(count * Pull.BYTES) : 0;
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
    const first = this.#looked === -1;
    if (first) this.#looks = this.#isQuiet(substeps * h) ? QUIET_LOOKS : LOOKS;
    const looks = this.#looks;
    const lookOf = (of: number) => Math.min(looks - 1, Math.floor((of / substeps) * looks));
    if (lookOf(substep) === this.#looked) return;
    this.#looked = lookOf(substep);
    // What is asked now acts until it is asked again.
    let next = substep + INTERVAL;
    while (next < substeps && lookOf(next) === this.#looked) next += INTERVAL;
    const cloths = this.#cloths.map((cloth) => this.#sampled(cloth));
    this.#field.sample(time, cloths, (Math.min(next, substeps) - substep) * h, first);
  }

  /** Whether over so many s nothing draws cloth, and it is slow. */
  #isQuiet(seconds: number): boolean {
    const fastest = Math.sqrt(this.#memory.run.farthest(this.#velocity, this.#count));
    return this.pulls === 0 && fastest * seconds < QUIET;
  }

  #sampled({ model, firstPoint, points, fabric }: ClothState): SampledCloth {
    const memory = this.#memory;
    const velocityAt = this.#velocity;
    const threes = (address: number) => {
      const source = memory.points(address, firstPoint, points);
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
      get velocities() {
        return threes(velocityAt);
      },
      id: model.id,
      triangles: model.rest.triangles,
      spacing: meanSpacing(model.rest),
      weight: fabric.weight,
      velocity: view(this.velocities, Point.BYTES / 4),
      pull: view(this.pulls, Pull.BYTES / 4),
      stir: (waves, time, speeds) => this.#stir(firstPoint * Point.BYTES, waves, time, speeds),
    };
  }

  /** Eddies at the points of a cloth, whose first is so many bytes behind the first of all. */
  #stir(first: number, waves: Float64Array, time: number, speeds: Float32Array): void {
    const count = waves.length / WAVE_NUMBERS;
    const records = this.#memory.records(this.#waves, Wave.BYTES, count);
    for (let i = 0; i < count; i++) {
      const at = i * WAVE_NUMBERS;
      records.setFloats(i, Wave.TURNS_X, waves.subarray(at, at + 6));
      // Whole turns are taken off while there are digits enough.
      const turns = waves[at + 6]! * time + waves[at + 7]!;
      records.setFloat(i, Wave.TURNS_NOW, turns - Math.floor(turns));
    }
    const padded = this.#memory.floats(this.#speeds, speeds.length + 3);
    padded.set(speeds);
    padded.fill(0, speeds.length);
    const [points, velocity] = [this.#points + first, this.velocities + first];
    this.#memory.run.addEddies(points, this.#speeds, velocity, speeds.length, this.#waves, count);
  }
}
