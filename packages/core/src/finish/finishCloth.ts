import type { Mesh } from '../mesh/mesh';
import { keyableOf } from '../quantity/quantity';
import { FINISH_STEPS, type FinishEntry, type StepOf } from './steps';
import type { FinishGiven, Finisher } from './finishStep';

/** A cloth as it is shown and handed over. */
export interface FinishedCloth {
  mesh: Mesh;
  /** x y z of each of its points in m. */
  positions: Float32Array;
}

const NO_THINGS: ReadonlyMap<string, Mesh> = new Map();

/** The finish list of a cloth, prepared once for its mesh and then done frame by frame. */
export class FinishList {
  readonly #key: string;
  readonly #simulated: Mesh;
  readonly #built: { entry: FinishEntry; finisher: Finisher<StepOf> }[] = [];

  /**
   * `given` is what steps need of the shot; it may be left out where none is about other things.
   * @throws RangeError with a sentence for the artist where a step cannot be done
   */
  constructor(simulated: Mesh, entries: readonly FinishEntry[], given: FinishGiven | null = null) {
    this.#simulated = simulated;
    this.#key = finishKey(entries);
    let mesh = simulated;
    const meshes = given?.meshes ?? new Map<string, Mesh>();
    let at = given?.start ?? simulated.positions;
    for (const entry of entries) {
      if (!entry.on) continue;
      const finisher = FINISH_STEPS[entry.step.kind].build(mesh, entry.step as never, {
        at,
        meshes,
      }) as Finisher<StepOf>;
      this.#built.push({ entry, finisher });
      mesh = finisher.mesh;
      if (given) at = finisher.place(at, entry.step, null, meshes);
    }
  }

  /** Whether it was prepared for this mesh and these steps; numbers that can be keyed may differ. */
  fits(simulated: Mesh, entries: readonly FinishEntry[]): boolean {
    return simulated === this.#simulated && finishKey(entries) === this.#key;
  }

  /** The mesh that it gives, with the places as cut. */
  get mesh(): Mesh {
    return this.#built.at(-1)?.finisher.mesh ?? this.#simulated;
  }

  /**
   * Where its points are when those of the simulated mesh are at `positions`, x y z in m. `entries` are the steps with their numbers as they
   * are at that frame; `maskOf` gives a mask of the simulated points, 0 to 1 each, by its id: none where it was deleted; `things` are the
   * meshes of other things that steps are about, at that frame.
   */
  place(
    positions: Float32Array,
    entries: readonly FinishEntry[],
    maskOf: (id: string) => Float32Array | null,
    things: ReadonlyMap<string, Mesh> = NO_THINGS,
  ): Float32Array {
    const steps = new Map(entries.map(({ id, step }) => [id, step]));
    let now = positions;
    this.#built.forEach(({ entry, finisher }, i) => {
      const mask = entry.mask === null ? null : maskOf(entry.mask);
      const carried = mask && this.#built.slice(0, i).reduce((values, before) => before.finisher.carry(values), mask);
      now = finisher.place(now, steps.get(entry.id) ?? entry.step, carried, things);
    });
    return now;
  }
}

/** What decides which faces a list gives: all but the numbers that can be keyed. */
export function finishKey(entries: readonly FinishEntry[]): string {
  const kept = entries
    .filter(({ on }) => on)
    .map(({ id, mask, step }) => {
      const { schema, numbersOf } = FINISH_STEPS[step.kind];
      // What numbers are parts of may change with them.
      const parts = Object.keys(numbersOf?.(step as never) ?? {}).map((name) => name.split('.')[0]!);
      const keyable = new Set([...Object.keys(keyableOf(schema)), ...parts]);
      return [id, mask, Object.entries(step).filter(([name]) => !keyable.has(name))];
    });
  return JSON.stringify(kept);
}
