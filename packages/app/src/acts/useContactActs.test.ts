// @vitest-environment happy-dom
import { createCloth, createCollider, type Cloth, type Collider } from '@lumbra/core';
import { describe, expect, it } from 'vitest';
import { useUndoStore } from '../stores/undo';
import { openBench } from '../testing/openBench';
import { useContactActs } from './useContactActs';

describe('the contact table', () => {
  it('lets a pair pass and touch again, each one undo', async () => {
    const bench = await openBench([createCloth({ name: 'Hood' }), createCollider({ name: 'Rail' })]);
    const [acts, undo] = [useContactActs(), useUndoStore()];
    const pair = () => [bench.thing<Cloth>('Hood'), bench.thing<Collider>('Rail')] as const;
    acts.flip(...pair());
    expect(bench.shot().contacts).toMatchObject([{ touches: false }]);
    expect(bench.document.done.at(-1)?.label).toBe('Hood and Rail, pass through each other');
    acts.flip(...pair());
    expect(bench.shot().contacts).toEqual([]);
    undo.undo();
    expect(bench.shot().contacts).toHaveLength(1);
  });

  it('follows a dragged number as one edit, and goes back to the numbers of the two', async () => {
    const bench = await openBench([createCloth({ name: 'Hood' }), createCollider({ name: 'Rail' })]);
    const acts = useContactActs();
    const pair = () => [bench.thing<Cloth>('Hood'), bench.thing<Collider>('Rail')] as const;
    for (const friction of [0.5, 0.6, 0.7]) acts.change(...pair(), 'friction', { friction }, true);
    expect(bench.document.done).toHaveLength(1);
    expect(bench.shot().contacts).toMatchObject([{ friction: 0.7 }]);
    acts.change(...pair(), 'their own numbers', { clearance: null, friction: null, side: null });
    expect(bench.shot().contacts).toEqual([]);
  });

  it('of a cloth with itself is its self-contact', async () => {
    const bench = await openBench([createCloth({ name: 'Hood' })]);
    const acts = useContactActs();
    const hood = () => bench.thing<Cloth>('Hood');
    acts.flip(hood(), hood());
    expect(hood().selfContact.enabled).toBe(false);
    acts.flip(hood(), hood());
    expect(hood().selfContact.enabled).toBe(true);
  });
});
