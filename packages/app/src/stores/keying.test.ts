// @vitest-environment happy-dom
import { createCloth, createCollider, setKnot, trackOf, type Track } from '@lumbra/core';
import { nextTick } from 'vue';
import { describe, expect, it } from 'vitest';
import { openBench } from '../testing/openBench';
import { useKeyingStore } from './keying';

const MOVES: Track = {
  number: 'position.x',
  knots: [
    { frame: 1, value: 0, ease: 'linear' },
    { frame: 11, value: 1, ease: 'linear' },
  ],
};

async function open() {
  const box = createCollider({ id: 'b', name: 'Box', keys: [MOVES] });
  const { document, run } = await openBench([createCloth({ id: 'c', name: 'Cloth' }), box]);
  const keying = useKeyingStore();
  await nextTick();
  const thing = () => document.shot!.things[1]!;
  const change = (values: Record<string, number>) =>
    keying.change('b', values, { label: 'Move Box', live: false, merge: 'm' });
  const knots = () => trackOf(thing(), 'position.x')?.knots.map(({ frame, value }) => [frame, value]);
  const at = async (frame: number) => {
    run.frame = frame;
    await nextTick();
  };
  return { document, keying, thing, change, knots, at };
}

describe('a number that may be keyed', () => {
  it('is simply changed where it is constant, and at a knot', async () => {
    const { keying, thing, change, knots } = await open();
    change({ 'position.y': 2 });
    expect(thing().position[1]).toBe(2);
    change({ 'position.x': 0.5 });
    expect(knots()).toEqual([
      [1, 0.5],
      [11, 1],
    ]);
    expect(keying.question).toBeNull();
  });

  it('waits for an answer away from its knots, shown but not in the document', async () => {
    const { keying, thing, change, knots, at, document } = await open();
    await at(6);
    change({ 'position.x': 3 });
    expect(keying.shown('b', 'position.x')).toBe(3);
    expect(knots()).toEqual([
      [1, 0],
      [11, 1],
    ]);
    expect(document.done).toHaveLength(0);
    expect(keying.preview(document.shot!).things[1]!.position[0]).toBe(3);
    keying.answer('leave');
    expect(keying.shown('b', 'position.x')).toBeCloseTo(0.5);
    expect(thing().position[0]).toBe(0);
  });

  it('is keyed where it is asked to be', async () => {
    const { keying, change, knots, at } = await open();
    await at(6);
    change({ 'position.x': 3 });
    keying.answer('key');
    expect(knots()).toEqual([
      [1, 0],
      [6, 3],
      [11, 1],
    ]);
    await at(8);
    change({ 'position.x': 5 });
    expect(keying.question).not.toBeNull();
  });

  it('goes on being keyed when it is told to', async () => {
    const { keying, change, knots, at } = await open();
    await at(6);
    change({ 'position.x': 3 });
    keying.answer('go on');
    await at(8);
    change({ 'position.x': 5 });
    expect(keying.question).toBeNull();
    expect(knots()).toHaveLength(4);
  });

  it('shifts its whole curve, and goes on shifting at that frame without asking again', async () => {
    const { keying, change, knots, at } = await open();
    await at(6);
    change({ 'position.x': 1.5 });
    keying.answer('shift');
    expect(knots()).toEqual([
      [1, 1],
      [11, 2],
    ]);
    change({ 'position.x': 2.5 });
    expect(knots()).toEqual([
      [1, 2],
      [11, 3],
    ]);
  });

  it('asks nothing any more when a change is taken back, as by a drag that is given up', async () => {
    const { keying, change, knots, at } = await open();
    await at(6);
    change({ 'position.x': 3 });
    change({ 'position.x': 0.5 });
    expect(keying.question).toBeNull();
    expect(keying.shown('b', 'position.x')).toBeCloseTo(0.5);
    expect(knots()).toHaveLength(2);
  });

  it('still asks about the others when one of several is taken back', async () => {
    const { document, keying, change, at } = await open();
    document.edit('Key', (draft) => setKnot(draft, { thing: 'b', number: 'position.z', frame: 1 }, 0));
    await at(6);
    change({ 'position.x': 3, 'position.z': 2 });
    change({ 'position.x': 0.5 });
    expect(keying.question!.values).toEqual({ 'position.z': 2 });
    // What was never asked about leaves the question as it is.
    change({ 'position.x': 0.5 });
    expect(keying.question!.values).toEqual({ 'position.z': 2 });
  });

  it('forgets what waits when the frame is left', async () => {
    const { keying, change, at } = await open();
    await at(6);
    change({ 'position.x': 3 });
    await at(7);
    expect(keying.question).toBeNull();
    expect(keying.shown('b', 'position.x')).toBeCloseTo(0.6);
  });

  it('is keyed and unkeyed by its dot', async () => {
    const { keying, thing, at, knots } = await open();
    await at(4);
    expect(keying.keyState('b', 'position.y')).toBe('constant');
    expect(keying.keyState('b', 'name')).toBe('none');
    keying.toggle('b', 'position.y', 'place y');
    expect(keying.keyState('b', 'position.y')).toBe('here');
    keying.toggle('b', 'position.y', 'place y');
    expect(trackOf(thing(), 'position.y')).toBeUndefined();
    expect(keying.keyState('b', 'position.x')).toBe('elsewhere');
    keying.toggle('b', 'position.x', 'place x');
    expect(knots()).toHaveLength(3);
    expect(knots()![1]![1]).toBeCloseTo(0.3);
  });
});
