import { keyableOf, type Quantity } from '../quantity/quantity';
import { FINISH_STEPS, type FinishEntry } from '../finish/steps';
import type { Mesh } from '../mesh/mesh';
import { setConstant, valueAt } from './keys';
import { maskValues } from './maskValues';
import type { Cloth } from './things';

// The finish list of a cloth as the document has it: its numbers at a frame, their keys and its masks.

/** The name of a step's number among those of its cloth: “finish:abc.thickness”. */
export const finishNumber = (entry: string, number: string): string => `finish:${entry}.${number}`;

export const isFinishNumber = (number: string): boolean => number.startsWith('finish:');

/** The numbers of a finish list that can be keyed. */
export function finishNumbers({ finish }: Pick<Cloth, 'finish'>): Record<string, Quantity> {
  return Object.fromEntries(
    finish.flatMap(({ id, step }) => {
      const { label, schema, numbersOf } = FINISH_STEPS[step.kind];
      const numbers = { ...keyableOf(schema), ...numbersOf?.(step as never) };
      return Object.entries(numbers).map(([number, quantity]) => [
        finishNumber(id, number),
        { ...quantity, label: `${label}, ${quantity.label.toLowerCase()}` },
      ]);
    }),
  );
}

/** The steps with their keyed numbers as they are at a frame. */
export function finishAt(cloth: Cloth, frame: number): readonly FinishEntry[] {
  const keyed = cloth.keys.filter(({ number }) => isFinishNumber(number));
  if (keyed.length === 0) return cloth.finish;
  const owner = { finish: cloth.finish.map((entry) => ({ ...entry, step: structuredClone(entry.step) })) };
  for (const { number } of keyed) setConstant(owner, number, valueAt(cloth, number, frame));
  return owner.finish;
}

/** The masks that steps name, at a frame, by their ids: 0 to 1 for each point of the simulated mesh. Deleted ones are missing. */
export function finishMasks(cloth: Cloth, mesh: Mesh, frame: number): Map<string, Float32Array> {
  const wanted = new Set(cloth.finish.flatMap(({ on, mask }) => (on && mask !== null ? [mask] : [])));
  return new Map(
    cloth.masks.filter(({ id }) => wanted.has(id)).map((mask) => [mask.id, maskValues(cloth, mask, mesh, frame)]),
  );
}
