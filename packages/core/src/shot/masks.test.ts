import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fabricPlaces, fabricShareAt } from '../mesh/fabricPlaces';
import { sheet } from '../mesh/shapes/sheet';
import { createCloth, createLeash, createPinSet, createShot, createTie } from './create';
import { edit } from './edit';
import { setKnot } from './editKeys';
import { followShapes } from './followShapes';
import { pinMotion, removeMask } from './holds';
import { numberQuantity } from './keyable';
import { maskNumber, readMask, writeMask } from './masks';
import { isMaskKeyed, maskBytes, maskValues } from './maskValues';
import { readShot } from './readShot';
import type { Cloth, Shot } from './schema';

const SHAPE = { kind: 'sheet', width: 0.6, height: 0.4, spacing: 0.1 } as const;
const mesh = sheet(SHAPE);
const count = mesh.positions.length / 3;
const RAMP = { kind: 'straight', from: [0, 0], to: [1, 0] } as const;
const painted = writeMask(Uint8Array.from({ length: count }, (_, i) => (i * 9) % 256));

function masked(): Shot {
  const cloth = createCloth({
    id: 'c',
    name: 'Cloth',
    shape: SHAPE,
    masks: [
      { id: 'painted', name: 'Painted', values: painted },
      { id: 'ramp', name: 'Ramp', ramp: { ...RAMP, from: [0, 0], to: [1, 0] } },
    ],
    fabricMasks: { bendWarp: 'ramp', friction: 'painted' },
    pinSets: [createPinSet({ id: 'p', name: 'Pins', points: [0], mask: 'ramp' })],
    ties: [createTie({ name: 'Tie', points: [1], to: 'x', mask: 'painted', standOffMask: 'ramp' })],
    leashes: [createLeash({ name: 'Leash', points: [2], mask: 'ramp' })],
  });
  const shot = createShot({ name: 'Masked', things: [cloth] });
  return edit(shot, 'Key', (draft) => {
    const number = maskNumber('ramp', 'phase');
    setKnot(draft, { thing: 'c', number, frame: 1 }, 0);
    setKnot(draft, { thing: 'c', number, frame: 11 }, 1, 'linear');
  }).shot;
}
const clothOf = (shot: Shot) => shot.things[0] as Cloth;

describe('what a mask is worth', () => {
  it('of a painted one is what was painted, and 100 % where it knows nothing', () => {
    const cloth = clothOf(masked());
    const values = maskValues(cloth, cloth.masks[0]!, mesh, 5);
    expect(maskBytes(values)).toEqual(readMask({ values: painted }));
    const short = { ...cloth.masks[0]!, values: writeMask(new Uint8Array(3)) };
    expect([...maskValues(cloth, short, mesh, 5)].slice(0, 5)).toEqual([0, 0, 0, 1, 1]);
  });

  it('of a ramp goes with its phase from frame to frame', () => {
    const cloth = clothOf(masked());
    const at = (frame: number) => maskValues(cloth, cloth.masks[1]!, mesh, frame);
    expect(isMaskKeyed(cloth, cloth.masks[1]!)).toBe(true);
    expect(isMaskKeyed(cloth, cloth.masks[0]!)).toBe(false);
    expect(at(1)[6]).toBeCloseTo(0, 6);
    expect(at(6)[6]).toBeCloseTo(0.5, 6);
    expect(at(11).every((value) => value === 1)).toBe(true);
  });

  it('is named as its number is, with limits', () => {
    expect(numberQuantity(clothOf(masked()), maskNumber('ramp', 'phase'))).toMatchObject({
      label: 'Ramp, phase',
      unit: '%',
    });
    expect(numberQuantity(clothOf(masked()), maskNumber('painted', 'phase'))).toBeUndefined();
  });
});

describe('masks in the document', () => {
  it('come back from a file as they are, and from one of before ramps', () => {
    const shot = masked();
    expect(readShot(JSON.parse(JSON.stringify(shot)))).toEqual(shot);
    const old = JSON.parse(JSON.stringify(shot)) as { things: { masks: { ramp?: unknown }[]; keys: unknown[] }[] };
    old.things[0]!.masks.splice(1);
    delete old.things[0]!.masks[0]!.ramp;
    old.things[0]!.keys = [];
    expect(clothOf(readShot(old)).masks).toEqual([{ id: 'painted', name: 'Painted', values: painted, ramp: null }]);
  });

  it('take themselves from all that they scale when they are removed, with their keys', () => {
    const without = clothOf(edit(masked(), 'x', (draft) => removeMask(clothOf(draft), 'ramp')).shot);
    expect(without.masks.map(({ id }) => id)).toEqual(['painted']);
    expect([without.pinSets[0]!.mask, without.leashes[0]!.mask, without.ties[0]!.standOffMask]).toEqual([
      null,
      null,
      null,
    ]);
    expect(without.ties[0]!.mask).toBe('painted');
    expect(without.fabricMasks).toEqual({ friction: 'painted' });
    expect(without.keys).toEqual([]);
  });

  it('follow the fabric to another spacing: what was painted is carried over, a ramp stays where it is', () => {
    const before = masked();
    const { shot } = edit(before, 'x', (draft) => {
      (clothOf(draft).shape as { spacing: number }).spacing = 0.05;
      followShapes(draft, before, new Map());
    });
    const fine = sheet({ ...SHAPE, spacing: 0.05 });
    const [carried, ramp] = clothOf(shot).masks;
    expect(readMask(carried!)).toHaveLength(fine.positions.length / 3);
    expect(ramp).toEqual(clothOf(before).masks[1]);
    const values = maskValues(clothOf(shot), ramp!, fine, 1);
    values.forEach((value, i) => expect(value).toBeCloseTo(1 - fine.material![i * 2]! / 0.6, 5));
  });
});

it('pins stay, are moved, or are keyed', () => {
  const cloth = clothOf(masked());
  const set = cloth.pinSets[0]!;
  expect(pinMotion(cloth, set)).toBe('stays');
  expect(pinMotion(cloth, { ...set, move: [0, 0.1, 0] })).toBe('moved');
  expect(pinMotion(cloth, { ...set, gather: [1, 0.5, 1] })).toBe('moved');
  const knots = [{ frame: 1, value: 1, ease: 'linear' as const }];
  expect(pinMotion({ ...cloth, keys: [{ number: 'hold:p.strength', knots }] }, set)).toBe('stays');
  expect(pinMotion({ ...cloth, keys: [{ number: 'hold:p.turn.y', knots }] }, set)).toBe('keyed');
  expect(pinMotion({ ...cloth, keys: [{ number: 'hold:p2.turn.y', knots }] }, set)).toBe('stays');
});

describe('places on the fabric', () => {
  it('begin at 0, by material coordinates or as seen from above', () => {
    const above = {
      positions: Float32Array.from([-1, 5, 2, 3, 5, 2, -1, 7, 4]),
      triangles: Uint32Array.from([0, 1, 2]),
    };
    expect(fabricPlaces(above)).toMatchObject({ width: 4, height: 2 });
    expect([...fabricPlaces(above).places]).toEqual([0, 0, 4, 0, 0, 2]);
    expect(fabricPlaces(mesh).width).toBeCloseTo(0.6, 6);
  });

  it('are shares of width and height inside any face', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(fc.nat(mesh.triangles.length / 3 - 1), share, share, (face, a, b) => {
        const [s, t] = a + b > 1 ? [1 - a, 1 - b] : [a, b];
        const [u, v] = fabricShareAt(mesh, { face, weights: [1 - s - t, s, t], distance: 0 });
        const corners = [0, 1, 2].map((corner) => mesh.triangles[face * 3 + corner]!);
        const us = corners.map((corner) => mesh.material![corner * 2]! / 0.6);
        expect(u).toBeGreaterThanOrEqual(Math.min(...us) - 1e-6);
        expect(u).toBeLessThanOrEqual(Math.max(...us) + 1e-6);
        expect(v).toBeGreaterThanOrEqual(-1e-6);
        expect(v).toBeLessThanOrEqual(1 + 1e-6);
      }),
    );
  });
});
