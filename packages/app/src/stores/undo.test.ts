// @vitest-environment happy-dom
import { createCloth, type Cloth } from '@lumbra/core';
import fc from 'fast-check';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openBench } from '../testing/openBench';
import { useUndoStore } from './undo';

/** What an artist does at Hold: selects points, changes a number, or does something with the points, which lets them go. */
type Act = { select: number[] } | { weight: number } | { use: number };

const acts: fc.Arbitrary<Act> = fc.oneof(
  fc.record({ select: fc.uniqueArray(fc.nat(9), { maxLength: 4 }) }),
  fc.record({ weight: fc.integer({ min: 1, max: 9 }) }),
  fc.record({ use: fc.integer({ min: 10, max: 19 }) }),
);

async function open() {
  const { document, selection } = await openBench([createCloth({ id: 'c', name: 'Cloth' })]);
  const undo = useUndoStore();
  selection.station = 'hold';
  document.edit('Weight', (draft) => ((draft.things[0] as Cloth).fabric.weight = 2));
  document.done = [];
  const weight = () => (document.shot!.things[0] as Cloth).fabric.weight;
  const setWeight = (value: number) =>
    document.edit('Weight', (draft) => ((draft.things[0] as Cloth).fabric.weight = value / 10));
  const act = (one: Act) => {
    if ('select' in one) selection.setPoints(one.select);
    else if ('weight' in one) setWeight(one.weight);
    else {
      setWeight(one.use);
      selection.setPoints([], true);
    }
  };
  return { document, selection, undo, act, state: () => JSON.stringify([weight(), selection.points]) };
}

describe('undo at Hold', () => {
  beforeEach(() => vi.clearAllMocks());

  it('goes back and on through edits and selections in the order in which they were made', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(acts, { maxLength: 12 }), async (all) => {
        const { act, undo, state } = await open();
        const states = [state()];
        for (const one of all) {
          act(one);
          if (state() !== states.at(-1)) states.push(state());
        }
        for (let i = states.length - 2; i >= 0; i--) {
          undo.undo();
          expect(state()).toBe(states[i]);
        }
        expect(undo.undoLabel).toBeUndefined();
        for (const later of states.slice(1)) {
          undo.redo();
          expect(state()).toBe(later);
        }
        expect(undo.redoLabel).toBeUndefined();
      }),
      {
        numRuns: 60,
        // Points that are let go by an edit that changes nothing.
        examples: [[[{ use: 14 }, { select: [0] }, { use: 14 }]]],
      },
    );
  });

  it('keeps edits of the same number apart when points are selected in between', async () => {
    const { document, act, undo, state } = await open();
    const drag = (value: number) =>
      document.edit('Weight', (draft) => ((draft.things[0] as Cloth).fabric.weight = value), 'weight');
    drag(1);
    drag(1.1);
    act({ select: [4] });
    drag(1.2);
    const seen: string[] = [];
    while (undo.undoLabel) {
      undo.undo();
      seen.push(state());
    }
    expect(seen).toEqual(['[1.1,[4]]', '[1.1,[]]', '[2,[]]']);
  });

  it('says what it would take back', async () => {
    const { act, undo } = await open();
    act({ weight: 3 });
    expect(undo.undoLabel).toBe('Weight');
    act({ select: [1, 2, 3] });
    expect(undo.undoLabel).toBe('Select 3 points');
    undo.undo();
    expect(undo.redoLabel).toBe('Select 3 points');
    expect(undo.undoLabel).toBe('Weight');
  });

  it('leaves selections alone at other stations', async () => {
    const { act, undo, selection, state } = await open();
    act({ weight: 3 });
    act({ select: [1, 2] });
    selection.station = 'fabric';
    undo.undo();
    expect(state()).toBe(JSON.stringify([2, [1, 2]]));
  });
});
