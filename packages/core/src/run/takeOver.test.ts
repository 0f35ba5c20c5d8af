import { describe, expect, it } from 'vitest';
import { createAir, createCloth, createCollider, createLeash, createPinSet, createShot } from '../shot/create';
import { setContact } from '../shot/contacts';
import { edit } from '../shot/edit';
import { setKnot } from '../shot/editKeys';
import { writeMask } from '../shot/masks';
import { cornerPoints } from '../shot/selectPoints';
import { shapeMesh } from '../shot/shapes';
import type { Cloth, Collider, Shot } from '../shot/schema';
import { compile } from './compile';
import { PacedSolver } from './pacedSolver';

const none = new Map();
const SHAPE = { kind: 'sheet', width: 0.5, height: 0.4, spacing: 0.04 } as const;
const count = shapeMesh(SHAPE, none).positions.length / 3;
const corners = cornerPoints(shapeMesh(SHAPE, none));

const shot = edit(
  createShot({
    name: 'Live',
    run: { quality: 'shot' },
    things: [
      createCloth({
        ...{ id: 'c', name: 'Cloth', shape: SHAPE, position: [0, 0.5, 0], print: {} },
        pinSets: [createPinSet({ id: 'p', name: 'Pins', points: corners.slice(0, 2), move: [0, 0.01, 0] })],
        leashes: [createLeash({ id: 'l', name: 'Leash', points: [40], distance: 0.1 })],
        masks: [
          {
            id: 'm',
            name: 'Mask',
            values: writeMask(Uint8Array.from({ length: count }, (_, i) => i % 255)),
            ramp: null,
          },
        ],
        fabricMasks: { bendWarp: 'm' },
      }),
      createCloth({ id: 'd', name: 'Over it', shape: SHAPE, position: [0.02, 0.53, 0.03] }),
      createCollider({
        ...{ id: 'ball', name: 'Ball', position: [0, 0.3, 0] },
        shape: { kind: 'ball', radius: 0.15 },
      }),
      createCollider({
        ...{ id: 'box', name: 'Box', position: [0.15, 0.1, 0] },
        shape: { kind: 'box', width: 0.2, height: 0.5, depth: 0.2 },
      }),
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } }),
      createAir({ id: 'w', name: 'Wind', rotation: [0, 1, 0], air: { kind: 'wind', speed: 2 } }),
    ],
  }),
  'Freeze',
  (draft) => void (draft.name = 'Live run'),
).shot;

type Change = (draft: { cloth: Cloth; ball: Collider; shot: Shot }) => void;
function changed(recipe: Change): Shot {
  return edit(shot, 'Change', (draft) =>
    recipe({ cloth: draft.things[0] as Cloth, ball: draft.things[2] as Collider, shot: draft }),
  ).shot;
}

/** A run of the shot that has gone on for some frames. */
function running(): PacedSolver {
  const solver = new PacedSolver(shot, none, compile(shot, none), { live: true });
  for (let frame = 0; frame < 5; frame++) solver.advance();
  return solver;
}

describe('a run takes the numbers of a changed shot over', () => {
  it.each<[string, Change]>([
    ['nothing', () => undefined],
    ['how it bends', ({ cloth }) => (cloth.fabric.bendWarp *= 3)],
    ['how it stretches and shears', ({ cloth }) => Object.assign(cloth.fabric, { stretchWeft: 900, shear: 60 })],
    ['its weight', ({ cloth }) => (cloth.fabric.weight *= 1.7)],
    [
      'thickness, friction and damping',
      ({ cloth }) => Object.assign(cloth.fabric, { thickness: 0.002, friction: 0.9, damping: 0.05 }),
    ],
    ['a smaller rest size', ({ cloth }) => (cloth.fabric.restWarp = 0.95)],
    ['how air acts on it, and pressure', ({ cloth }) => Object.assign(cloth.fabric, { airAcross: 3, pressure: 1 })],
    [
      'the distance of its layers, and that it passes through itself',
      ({ cloth }) => Object.assign(cloth.selfContact, { thickness: 0.006, enabled: false }),
    ],
    ['keyed fabric', ({ shot: draft }) => setKnot(draft, { thing: 'c', number: 'fabric.bendWeft', frame: 9 }, 4e-6)],
    ['values of a mask', ({ cloth }) => (cloth.masks[0]!.values = writeMask(new Uint8Array(count).fill(90)))],
    ['a moved collider', ({ ball }) => (ball.position[0] = 0.05)],
    [
      'a collider that moves',
      ({ shot: draft }) => setKnot(draft, { thing: 'ball', number: 'position.x', frame: 30 }, 0.3),
    ],
    [
      'clearance, friction and bounce',
      ({ ball }) => Object.assign(ball, { clearance: 0.01, friction: 1, bounce: 0.5 }),
    ],
    ['the side that counts', ({ ball }) => (ball.side = 'both')],
    [
      'gravity and wind',
      ({ shot: draft }) => {
        draft.gravity.strength = 4;
        Object.assign((draft.things[5] as { air: object }).air, { speed: 6, gustDepth: 0.8 });
      },
    ],
    ['how two cloths meet', ({ shot: draft }) => setContact(draft, 'c', 'd', { clearance: 0.01, friction: 0 })],
    ['that two cloths pass each other', ({ shot: draft }) => setContact(draft, 'c', 'd', { touches: false })],
    [
      'how a pair touches',
      ({ shot: draft }) => setContact(draft, 'd', 'box', { clearance: 0.012, friction: 1.5, side: 'outside' }),
    ],
    ['quality', ({ shot: draft }) => (draft.run.quality = 'final')],
    ['substeps by hand', ({ shot: draft }) => (draft.run.substeps = 33)],
  ])('%s, bit for bit as a new one that goes on from there', (_, recipe) => {
    const after = changed(recipe);
    const model = compile(after, none);
    const taking = running();
    const fresh = new PacedSolver(after, none, compile(after, none), { live: true });
    fresh.restore(taking.state());
    expect(taking.take(after, none, model)).toBe(true);
    for (let frame = 0; frame < 3; frame++) {
      for (const solver of [taking, fresh]) solver.advance();
      for (const cloth of [0, 1]) expect(taking.solver.positions(cloth)).toEqual(fresh.solver.positions(cloth));
      expect(taking.measured().measures).toEqual(fresh.measured().measures);
      expect(taking.measured().depths).toEqual(fresh.measured().depths);
    }
  });

  it.each<[string, Change]>([
    ['moved pins', ({ cloth }) => (cloth.pinSets[0]!.move[1] = 0.05)],
    ['gathered pins', ({ cloth }) => (cloth.pinSets[0]!.gather[0] = 0.7)],
    ['a longer leash', ({ cloth }) => (cloth.leashes[0]!.distance = 0.3)],
  ])('%s, without a jump', (_, recipe) => {
    const after = changed(recipe);
    const solver = running();
    expect(solver.take(after, none, compile(after, none))).toBe(true);
    solver.advance();
    expect(solver.measured().measures.fastest).toBeLessThan(6);
  });

  it.each<[string, Change]>([
    ['other pinned points', ({ cloth }) => (cloth.pinSets[0]!.points = [1])],
    ['no pins', ({ cloth }) => (cloth.pinSets = [])],
    ['another mesh', ({ cloth }) => Object.assign(cloth.shape, { spacing: 0.05 })],
    ['another size of a collider', ({ ball }) => Object.assign(ball.shape, { radius: 0.2 })],
    ['another collider', ({ shot: draft }) => draft.things.push(createCollider({ name: 'More' }))],
    ['a collider that it no longer touches', ({ shot: draft }) => setContact(draft, 'c', 'ball', { touches: false })],
    ['a mask where none was', ({ cloth }) => (cloth.fabricMasks.friction = 'm')],
    [
      'air that is somewhere',
      ({ shot: draft }) => draft.things.push(createAir({ name: 'Beam', air: { kind: 'beam' } as never })),
    ],
    ['draft', ({ shot: draft }) => (draft.run.quality = 'draft')],
  ])('but not %s', (_, recipe) => {
    const after = changed(recipe);
    const solver = running();
    const before = solver.state();
    expect(solver.take(after, none, compile(after, none))).toBe(false);
    // Nothing was changed: it goes on as it would have.
    const same = running();
    for (const one of [solver, same]) one.advance();
    expect(solver.solver.positions(0)).toEqual(same.solver.positions(0));
    expect(before.arrays).toHaveLength(same.state().arrays.length);
  });
});
