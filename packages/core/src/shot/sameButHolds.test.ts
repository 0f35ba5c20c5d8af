import { describe, expect, it } from 'vitest';
import { createAir, createCloth, createCollider, createLeash, createPinSet, createShot, createTie } from './create';
import { edit } from './edit';
import { setKnot } from './editKeys';
import { sameButHolds } from './sameButHolds';
import type { Cloth, Shot } from './schema';

const shot = createShot({
  name: 'Held',
  things: [
    createCloth({
      ...{ id: 'c', name: 'Cloth' },
      pinSets: [createPinSet({ id: 'p', name: 'Pins', points: [1, 2] })],
      ties: [createTie({ id: 't', name: 'Tie', points: [3], to: 'b' })],
      leashes: [createLeash({ id: 'l', name: 'Leash', points: [4] })],
    }),
    createCollider({ id: 'b', name: 'Box' }),
  ],
});
const after = (recipe: (cloth: Cloth, draft: Shot) => void) =>
  edit(shot, 'Change', (draft) => recipe(draft.things[0] as Cloth, draft)).shot;

// What a live run can take over without building its solver anew.
describe('a shot that differs in the numbers of its holds only', () => {
  it.each<[string, (cloth: Cloth, draft: Shot) => void]>([
    ['nothing', () => undefined],
    ['moved pins', (cloth) => (cloth.pinSets[0]!.move[1] = 1)],
    ['turned pins', (cloth) => (cloth.pinSets[0]!.turn[1] = 1)],
    ['gathered pins', (cloth) => (cloth.pinSets[0]!.gather[0] = 0.4)],
    ['weaker pins', (cloth) => (cloth.pinSets[0]!.strength = 0.4)],
    ['a longer leash', (cloth) => (cloth.leashes[0]!.distance = 0.4)],
    ['keyed pins', (_, draft) => setKnot(draft, { thing: 'c', number: 'hold:p.move.x', frame: 9 }, 1)],
    ['its name', (_, draft) => (draft.name = 'Other')],
    ['its camera', (_, draft) => (draft.camera.position = [1, 2, 9])],
  ])('is the same with %s', (_, recipe) => {
    expect(sameButHolds(shot, after(recipe))).toBe(true);
  });

  it.each<[string, (cloth: Cloth, draft: Shot) => void]>([
    ['other pinned points', (cloth) => (cloth.pinSets[0]!.points = [1])],
    ['pins of another mask', (cloth) => (cloth.pinSets[0]!.mask = 'm')],
    ['pins that ride something', (cloth) => (cloth.pinSets[0]!.rides = 'b')],
    ['a leash that goes never behind', (cloth) => (cloth.leashes[0]!.neverBehind = true)],
    ['ties', (cloth) => (cloth.ties[0]!.standOff = 0.4)],
    ['no pins', (cloth) => (cloth.pinSets = [])],
    ['fabric', (cloth) => (cloth.fabric.weight = 0.9)],
    ['keyed fabric', (_, draft) => setKnot(draft, { thing: 'c', number: 'fabric.restWarp', frame: 9 }, 1)],
    ['a moved collider', (_, draft) => (draft.things[1]!.position[0] = 1)],
    ['wind', (_, draft) => draft.things.push(createAir({ name: 'Wind' }))],
  ])('is not with %s', (_, recipe) => {
    expect(sameButHolds(shot, after(recipe))).toBe(false);
  });
});
