// @vitest-environment happy-dom
import { AIR_KIND_NAMES, createCloth, type AirThing } from '@lumbra/core';
import { checkShot } from '@lumbra/core/checks';
import { describe, expect, it } from 'vitest';
import { useUndoStore } from '../stores/undo';
import { openBench } from '../testing/openBench';
import { useAirActs } from './useAirActs';

const SHAPE = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.1 } as const;

async function open() {
  const bench = await openBench([createCloth({ id: 'c', name: 'Cloth', shape: SHAPE, position: [3, 1, -2] })]);
  return { ...bench, acts: useAirActs(), undo: useUndoStore() };
}

describe('air', () => {
  it.each(AIR_KIND_NAMES)('%s is added where it meets the cloth, is selected, and is one undo', async (kind) => {
    const { acts, undo, selection, shot } = await open();
    acts.add(kind);
    const made = shot().things.at(-1)! as AirThing;
    expect(made).toMatchObject({ role: 'air', air: { kind } });
    expect(selection.thingId).toBe(made.id);
    const found = checkShot(shot(), new Map(), { bake: null, bytesFree: null });
    expect(found.filter(({ check }) => check === 'air-misses')).toEqual([]);
    undo.undo();
    expect(shot().things).toHaveLength(1);
  });

  it('is switched off and taken away; a second of its kind has a name of its own', async () => {
    const { acts, selection, shot, thing } = await open();
    acts.add('beam');
    acts.add('beam');
    expect(shot().things.map(({ name }) => name)).toEqual(['Cloth', 'Beam', 'Beam 2']);
    acts.turn(thing('Beam'), false);
    expect(thing('Beam').enabled).toBe(false);
    acts.remove(thing('Beam 2'));
    expect(selection.thingId).toBeNull();
    expect(shot().things).toHaveLength(2);
    acts.turnGravity(false);
    expect(shot().gravity.enabled).toBe(false);
  });
});
