// @vitest-environment happy-dom
import { createCloth, createCollider, finishNumber, pointCount, setKnot, shapeMesh, type Cloth } from '@lumbra/core';
import { describe, expect, it } from 'vitest';
import { useUndoStore } from '../stores/undo';
import { openBench } from '../testing/openBench';
import { useFinishActs } from './useFinishActs';

const SHAPE = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.1 } as const;

async function open() {
  const bench = await openBench([createCloth({ id: 'c', name: 'Cloth', shape: SHAPE, position: [0, 1, 0] })]);
  const cloth = () => bench.thing<Cloth>('Cloth');
  const kinds = () => cloth().finish.map(({ step }) => step.kind);
  return { ...bench, acts: useFinishActs(), undo: useUndoStore(), cloth, kinds };
}

describe('a finish list', () => {
  it('gets steps, in an order that can be changed; each is one undo', async () => {
    const { acts, undo, cloth, kinds } = await open();
    acts.add(cloth(), 'thicken');
    acts.add(cloth(), 'smooth');
    acts.move(cloth(), cloth().finish[1]!, 0);
    expect(kinds()).toEqual(['smooth', 'thicken']);
    acts.move(cloth(), cloth().finish[0]!, -1);
    acts.turn(cloth(), cloth().finish[0]!, false);
    expect(cloth().finish[0]!.on).toBe(false);
    acts.change(cloth(), cloth().finish[1]!, 'way', ({ step }) => Object.assign(step, { way: 'inwards' }));
    expect(cloth().finish[1]!.step).toMatchObject({ way: 'inwards' });
    for (let n = 0; n < 3; n++) undo.undo();
    expect(kinds()).toEqual(['thicken', 'smooth']);
    expect(cloth().finish.every(({ on }) => on)).toBe(true);
  });

  it('hides what is shown as the cloth, and not what the cloth is lifted off', async () => {
    const { acts, undo, document, cloth, thing } = await open();
    document.edit('Box', (draft) => void draft.things.push(createCollider({ id: 'b', name: 'Box' })));
    acts.add(cloth(), 'lift');
    acts.chooseThing(cloth(), cloth().finish[0]!, 'thing', 'b');
    expect(cloth().finish[0]!.step).toMatchObject({ kind: 'lift', thing: 'b' });
    expect(thing('Box').visible).toBe(true);
    acts.add(cloth(), 'carry');
    acts.chooseThing(cloth(), cloth().finish[1]!, 'thing', 'b');
    expect(thing('Box').visible).toBe(false);
    undo.undo();
    expect(thing('Box').visible).toBe(true);
  });

  it('loses a step with its keys', async () => {
    const { acts, undo, document, cloth } = await open();
    const id = acts.add(cloth(), 'thicken');
    document.edit('Key', (draft) =>
      setKnot(draft, { thing: 'c', number: finishNumber(id, 'thickness'), frame: 3 }, 0.002),
    );
    acts.remove(cloth(), cloth().finish[0]!);
    expect([cloth().finish, cloth().keys]).toEqual([[], []]);
    undo.undo();
    expect(cloth().keys).toHaveLength(1);
  });

  it('has a lattice around the cloth, whose points get more or fewer, are put back and fitted anew, with their keys', async () => {
    const { acts, undo, document, cloth } = await open();
    const { positions, triangles } = shapeMesh(SHAPE, new Map());
    const id = acts.add(cloth(), 'lattice', { positions, triangles });
    const step = () => {
      const own = cloth().finish[0]!.step;
      if (own.kind !== 'lattice') throw new Error('not a lattice');
      return own;
    };
    expect([step().width, step().height, step().depth].map((side) => Number(side.toFixed(6)))).toEqual([
      0.42, 0.02, 0.42,
    ]);
    const number = finishNumber(id, 'points.40');
    document.edit('Key', (draft) => setKnot(draft, { thing: 'c', number, frame: 3 }, 0.2));
    acts.setLatticeCounts(cloth(), cloth().finish[0]!, [5, 3, 3]);
    expect(step().counts).toEqual([5, 3, 3]);
    expect(step().points).toHaveLength(135);
    expect(Math.max(...step().points)).toBeCloseTo(0.2 * (2 / 4 + 1 / 4), 1);
    acts.resetLattice(cloth(), cloth().finish[0]!);
    expect([step().points.every((value) => value === 0), cloth().keys]).toEqual([true, []]);
    undo.undo();
    undo.undo();
    expect(cloth().keys.map((track) => track.number)).toEqual([number]);
    acts.fitLattice(
      cloth(),
      cloth().finish[0]!,
      positions.map((value) => value * 2),
      triangles,
    );
    expect(step().width).toBeCloseTo(0.82, 6);
    expect(cloth().keys).toHaveLength(1);
  });

  it('gives a mesh of its own, in whose place the cloth is hidden until that is undone', async () => {
    const { acts, undo, document, selection, cloth, thing } = await open();
    const mesh = shapeMesh(SHAPE, new Map());
    const positions = mesh.positions.map((value, i) => (i % 3 === 0 ? value + 5 : value));
    acts.keepAsMesh(cloth(), { mesh, positions }, 7);
    const kept = thing('Cloth, frame 7');
    expect(selection.thingId).toBe(kept.id);
    expect(cloth().visible).toBe(false);
    if (!('shape' in kept)) throw new Error('It has a shape.');
    const made = shapeMesh(kept.shape, document.assets);
    expect(pointCount(made)).toBe(pointCount(mesh));
    // It stands where it was, about a middle of its own.
    expect(kept.position[0]).toBeCloseTo(5, 5);
    made.positions.forEach((value, i) => expect(value + kept.position[i % 3]!).toBeCloseTo(positions[i]!, 5));
    undo.undo();
    expect(thing('Cloth, frame 7')).toBeUndefined();
    expect(cloth().visible).toBe(true);
  });
});
