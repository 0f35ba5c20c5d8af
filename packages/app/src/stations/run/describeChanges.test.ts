import {
  changedInputs,
  createCloth,
  createCollider,
  createPinSet,
  createShot,
  createTie,
  edit,
  runInputs,
  setContact,
  writeMask,
  type Cloth,
  type Shot,
} from '@lumbra/core';
import { expect, it } from 'vitest';
import { describeChanges } from './describeChanges';

const rail = createCollider({ id: 'rail', name: 'Rail' });
const cloth = createCloth({
  id: 'c',
  name: 'Hood',
  shape: { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.1 },
  pinSets: [createPinSet({ name: 'Top', points: [0, 1, 2] })],
  ties: [createTie({ name: 'Rings', points: [4], to: 'rail', keepsDistance: false })],
  masks: [{ id: 'm', name: 'Fade', values: writeMask(new Uint8Array(25)) }],
});
const shot = createShot({ name: 'S', things: [cloth, rail] });

function described(recipe: (cloth: Cloth, shot: Shot) => void): { what: string; values: string }[] {
  const after = edit(shot, 'x', (draft) => recipe(draft.things[0] as Cloth, draft)).shot;
  return describeChanges(changedInputs(runInputs(shot, new Map()), runInputs(after, new Map())), after);
}

it.each<[string, string, (cloth: Cloth, shot: Shot) => void]>([
  ['Hood and Rail, touch', 'touch → pass', (_, s) => setContact(s, 'c', 'rail', { touches: false })],
  ['Hood and Rail, friction', 'as they have → 0.8', (_, s) => setContact(s, 'rail', 'c', { friction: 0.8 })],
  ['Hood, bend, warp', '20 µN·m', (c) => (c.fabric.bendWarp = 20e-6)],
  ['Hood, Top, strength', '100 → 50 %', (c) => (c.pinSets[0]!.strength = 0.5)],
  ['Hood, Top, move y', '0 → 0.2 m', (c) => (c.pinSets[0]!.move = [0, 0.2, 0])],
  ['Hood, Top, gather x', '100 → 40 %', (c) => (c.pinSets[0]!.gather = [0.4, 1, 1])],
  ['Hood, Top, points', 'changed', (c) => (c.pinSets[0]!.points = [0, 1])],
  ['Hood, Top, mask', 'changed', (c) => (c.pinSets[0]!.mask = 'm')],
  ['Hood, Rings, stand-off', '5 → 8 mm', (c) => (c.ties[0]!.standOff = 0.008)],
  ['Hood, Rings, mask of the stand-off', 'changed', (c) => (c.ties[0]!.standOffMask = 'm')],
  ['Hood, mask of friction', 'changed', (c) => (c.fabricMasks = { friction: 'm' })],
  ['Rail, place x', '0 → 1', (_, s) => (s.things[1]!.position = [1, 0, 0])],
])('says in words what makes a bake stale: %s, %s', (what, values, recipe) => {
  const changes = described(recipe);
  expect(changes).toHaveLength(1);
  expect(changes[0]!.what).toBe(what);
  expect(changes[0]!.values).toContain(values);
});

it('says that a hold is gone', () => {
  const changes = described((c) => (c.ties = []));
  expect(changes.map(({ what }) => what)).toContain('Hood, a hold that is gone');
});

it('names a pair of the contact table by its cloth first, whatever their ids', () => {
  for (const id of ['a', 'z']) {
    const other = createCollider({ id, name: 'Board' });
    const before = createShot({ name: 'S', things: [other, cloth] });
    const after = edit(before, 'x', (draft) => setContact(draft, 'c', id, { touches: false })).shot;
    const changes = changedInputs(runInputs(before, new Map()), runInputs(after, new Map()));
    expect(describeChanges(changes, after).map(({ what }) => what)).toEqual(['Hood and Board, touch']);
  }
});
