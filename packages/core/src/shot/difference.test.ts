import fc from 'fast-check';
import { expect, it } from 'vitest';
import { difference } from './difference';
import { redo, undo } from './edit';
import type { Shot } from './schema';

const value = fc.letrec((tie) => ({
  any: fc.oneof(
    { maxDepth: 4 },
    fc.integer(),
    fc.string(),
    fc.constant(null),
    fc.array(tie('any'), { maxLength: 4 }),
    fc.dictionary(fc.constantFrom('a', 'b', 'c', 'd'), tie('any'), { maxKeys: 4 }),
  ),
})).any;
const document = fc.dictionary(fc.constantFrom('x', 'y', 'z'), value);

it('leads from one document to any other, and back', () => {
  fc.assert(
    fc.property(document, document, (before, after) => {
      const edit = difference('Change', before, after);
      expect(redo(before as unknown as Shot, edit)).toEqual(after);
      expect(undo(after as unknown as Shot, edit)).toEqual(before);
    }),
  );
});

it('says only what has changed, and nothing of equal documents', () => {
  const before = { list: [{ a: 1, b: [1, 2, 3] }, { a: 2 }], other: { deep: { kept: true } } };
  expect(difference('', before, structuredClone(before)).forward).toEqual([]);
  const after = structuredClone(before);
  after.list[0]!.b![1] = 7;
  expect(difference('', before, after).forward).toEqual([{ op: 'replace', path: ['list', 0, 'b', 1], value: 7 }]);
});
