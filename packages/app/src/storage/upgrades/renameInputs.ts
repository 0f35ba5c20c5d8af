import { inputsFromVersion1, inputsHash, type RunInputs } from '@lumbra/core';
import type { Transaction } from 'dexie';

// From version 4 of the database: takes were written when documents had version 1.

/**
 * Names what takes depend on as documents of version 2 do, so that a take that was firm stays firm. Documents and undo lists are brought
 * along when they are read.
 */
export async function renameInputs(transaction: Transaction): Promise<void> {
  const renamed = new Map<string, string>();
  interface OldTake {
    spans: { inputs: RunInputs; inputsHash: string }[];
  }
  await transaction
    .table<OldTake>('takes')
    .toCollection()
    .modify((take) => {
      take.spans = take.spans.map((span) => {
        const inputs = inputsFromVersion1(span.inputs);
        if (Object.keys(inputs).every((path) => path in span.inputs)) return span;
        const hash = inputsHash(inputs);
        renamed.set(span.inputsHash, hash);
        return { ...span, inputs, inputsHash: hash };
      });
    });
  await transaction
    .table<{ inputsHash?: string }>('shots')
    .toCollection()
    .modify((shot) => {
      const hash = renamed.get(shot.inputsHash ?? '');
      if (hash !== undefined) shot.inputsHash = hash;
    });
}
