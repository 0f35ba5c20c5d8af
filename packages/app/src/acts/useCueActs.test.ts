// @vitest-environment happy-dom
import { createCloth, createCollider, createPinSet, cueTargets, type Cloth } from '@lumbra/core';
import { useDocumentStore } from '../session/document';
import { describe, expect, it } from 'vitest';
import { useUndoStore } from '../stores/undo';
import { openBench } from '../testing/openBench';
import { useCueActs } from './useCueActs';

async function open() {
  const bench = await openBench([
    createCloth({ name: 'Apron', pinSets: [{ ...createPinSet({ name: 'Clips', points: [0, 1] }), id: 'pins' }] }),
    createCollider({ id: 'lamp', name: 'Lamp' }),
  ]);
  return { ...bench, acts: useCueActs(), undo: useUndoStore(), apron: () => bench.thing<Cloth>('Apron') };
}

describe('cues of a cloth', () => {
  it('are added with what is at hand, each with a name of its own, and deleted', async () => {
    const { acts, undo, apron } = await open();
    acts.add(apron());
    acts.add(apron());
    expect(apron().cues.map(({ name }) => name)).toEqual(['Cue 1', 'Cue 2']);
    expect(apron().cues[0]).toMatchObject({ when: { kind: 'touch', thing: 'lamp' }, number: 'bendWarp' });
    expect(apron().cues[0]!.to).toBeCloseTo(apron().fabric.bendWarp / 10, 12);
    acts.remove(apron(), apron().cues[0]!);
    expect(apron().cues.map(({ name }) => name)).toEqual(['Cue 2']);
    undo.undo();
    expect(apron().cues).toHaveLength(2);
  });

  it('wait for something else, and change another number to what it can be', async () => {
    const { acts, apron } = await open();
    acts.add(apron());
    acts.waitFor(apron(), apron().cues[0]!, 'frame');
    expect(apron().cues[0]!.when).toEqual({ kind: 'frame', frame: 24 });
    const target = (number: string, of: string | null = null) =>
      cueTargets(useDocumentStore().shot!, apron()).find((one) => one.number === number && one.of === of)!;
    acts.changeNumber(apron(), apron().cues[0]!, target('restWarp'));
    expect(apron().cues[0]).toMatchObject({ number: 'restWarp', to: 0.95 });
    acts.changeNumber(apron(), apron().cues[0]!, target('weight'));
    expect(apron().cues[0]!.to).toBeCloseTo(3 * apron().fabric.weight, 12);
    acts.changeNumber(apron(), apron().cues[0]!, target('pressure'));
    expect(apron().cues[0]!.to).toBeGreaterThan(0);
    acts.changeNumber(apron(), apron().cues[0]!, target('hold:pins.strength', apron().id));
    expect(apron().cues[0]).toMatchObject({ of: apron().id, number: 'hold:pins.strength', to: 0 });
    acts.changeNumber(apron(), apron().cues[0]!, target('friction', 'lamp'));
    expect(apron().cues[0]).toMatchObject({ of: 'lamp', number: 'friction', to: 0 });
  });
});
