import { describe, expect, it } from 'vitest';
import { createAir, createCloth, createCollider, createMount, createPinSet, createShot } from './create';
import { canFillBetween, copiesBetween } from './fillBetween';
import { valueAt } from './keys';
import { readShot } from './readShot';
import type { Shot, Thing } from './schema';

const hoop = (id: string, x: number, keys: { frame: number; value: number }[] = []) =>
  createCollider({
    id,
    name: id === 'first' ? 'Hoop' : 'Hoop 4',
    shape: { kind: 'hoop', radius: id === 'first' ? 0.6 : 0.9, leg: 0.4, tubeRadius: 0.01, segments: 24 },
    position: [x, 0.5, 0],
    rotation: [0, id === 'first' ? 0 : 0.3, 0],
    parent: 'ferry',
    keys:
      keys.length > 0
        ? [{ number: 'position.x', knots: keys.map((knot) => ({ ...knot, ease: 'linear' as const })) }]
        : [],
  });
const shotOf = (...things: Thing[]): Shot =>
  createShot({ name: 'Row', things: [createMount({ id: 'ferry', name: 'Ferry' }), ...things] });

describe('a row between two things', () => {
  const shot = shotOf(
    hoop('first', 0),
    hoop('last', 1.2, [
      { frame: 1, value: 1.2 },
      { frame: 21, value: 0.4 },
    ]),
  );
  const copies = copiesBetween(shot, 'first', 'last', 3);

  it('stands in even steps of place, turn and size, with names of its own', () => {
    expect(copies.map(({ name }) => name)).toEqual(['Hoop 2', 'Hoop 3', 'Hoop 5']);
    expect(copies.map(({ position }) => position[0])).toEqual([0.3, 0.6, 0.9]);
    expect(copies.map(({ rotation }) => rotation[1])).toEqual([0.075, 0.15, 0.225]);
    expect(copies.map((copy) => 'shape' in copy && copy.shape)).toMatchObject(
      [0.675, 0.75, 0.825].map((radius) => ({ kind: 'hoop', radius, segments: 24 })),
    );
    expect(readShot(structuredClone({ ...shot, things: [...shot.things, ...copies] })).things).toHaveLength(6);
  });

  it('moves in even steps, where only one of the two has keys too', () => {
    for (const frame of [-5, 1, 7, 11, 21, 40]) {
      const last = valueAt(shot.things[2]!, 'position.x', frame);
      copies.forEach((copy, i) => expect(valueAt(copy, 'position.x', frame)).toBeCloseTo((last * (i + 1)) / 4, 6));
    }
  });

  it('keeps seeds, and lets the numbers of air lie between', () => {
    const wind = (id: string, speed: number, gustSeed: number) =>
      createAir({ id, name: id, air: { kind: 'wind', speed, gustSeed } });
    const [copy] = copiesBetween(shotOf(wind('a', 2, 7), wind('b', 6, 8)), 'a', 'b', 1);
    expect(copy).toMatchObject({ air: { kind: 'wind', speed: 4, gustSeed: 7 } });
  });

  it('takes over what a cloth is held by and what happens to it, and lets its fabric lie between', () => {
    const cloth = (id: string, weight: number, frame: number) =>
      createCloth({
        ...{ id, name: id, shape: { kind: 'sheet', width: 1, height: 1, spacing: 0.1 }, fabric: { weight } },
        pinSets: [createPinSet({ id: 'p', name: 'Pins', points: [0, frame] })],
        cues: [{ id: 'q', name: 'Cue', when: { kind: 'frame', frame }, number: 'shear', to: 20 }] as never,
      });
    const row = shotOf(cloth('a', 0.1, 3), cloth('b', 0.3, 8));
    const [copy] = copiesBetween(row, 'a', 'b', 1);
    expect(copy).toMatchObject({
      fabric: { weight: 0.2 },
      pinSets: [{ points: [0, 3] }],
      cues: [{ when: { frame: 3 }, to: 20 }],
    });
    expect(readShot(structuredClone({ ...row, things: [...row.things, copy] })).things).toHaveLength(4);
  });

  it('is refused between things of two kinds, carriers or meshes', () => {
    const cloth = (id: string, spacing: number) =>
      createCloth({ id, name: id, shape: { kind: 'sheet', width: 1, height: 1, spacing } });
    const other = { ...hoop('other', 2), parent: null };
    expect(canFillBetween(hoop('first', 0), other)).toBe(false);
    expect(canFillBetween(cloth('a', 0.1), cloth('b', 0.1))).toBe(true);
    expect(canFillBetween(cloth('a', 0.1), cloth('b', 0.2))).toBe(false);
    expect(() => copiesBetween(shotOf(hoop('first', 0), other), 'first', 'other', 2)).toThrow(/of one kind/);
    expect(() => copiesBetween(shot, 'first', 'gone', 2)).toThrow(/no longer in the shot/);
  });
});
