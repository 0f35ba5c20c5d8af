import { describe, expect, it } from 'vitest';
import { makeOneMesh } from '../mesh/makeOneMesh';
import type { Mesh } from '../mesh/mesh';
import { box as boxMesh } from '../mesh/shapes/box';
import { createCloth, createCollider, createMount, createScenery, createShot } from '../shot/create';
import type { Shot, Thing } from '../shot/schema';
import { liftClear, toGround } from './liftClear';
import { worldBounds } from './worldBounds';

const none = new Map<string, Mesh>();
const ground = (height = 0) =>
  createCollider({
    ...{ id: 'ground', name: 'Ground', shape: { kind: 'ground' }, position: [0, height, 0], clearance: 0.002 },
  });
const box = (position: [number, number, number], more: Partial<Parameters<typeof createCollider>[0]> = {}) =>
  createCollider({
    ...{ id: 'box', name: 'Box', shape: { kind: 'box', width: 1, height: 1, depth: 1 }, clearance: 0.003 },
    ...more,
    position,
  });
const sheet = (height: number, x = 0) =>
  createCloth({
    id: 'sheet',
    name: 'Sheet',
    shape: { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.1 },
    position: [x, height, 0],
  });
const shot = (...things: Thing[]): Shot => createShot({ name: 'Shot', things });
const moved = (mesh: Mesh, x: number): Mesh => ({
  ...mesh,
  positions: mesh.positions.map((value, i) => (i % 3 === 0 ? value + x : value)),
});
/** How far the first thing goes up, or down. */
const lifted = (...things: Thing[]) => liftClear(shot(...things), things[0]!, none, 1);
const dropped = (...things: Thing[]) => toGround(shot(...things), things[0]!, none, 1);

describe('lifting a thing clear', () => {
  it('takes it just above what is under it, by its clearance and a little room', () => {
    expect(lifted(sheet(0.2), box([0, 0, 0]))).toBeCloseTo(0.5 + 0.003 + 0.005 - 0.2, 6);
    expect(lifted(sheet(-1), ground())).toBeCloseTo(1 + 0.002 + 0.005, 6);
    // The highest of several.
    expect(lifted(sheet(0), ground(), box([0.3, 0, 0]))).toBeCloseTo(0.508, 6);
  });

  it('never takes it down, and leaves what is above it and beside it alone', () => {
    expect(lifted(sheet(2), box([0, 0, 0]), ground())).toBe(0);
    expect(lifted(sheet(0.2, 3), box([0, 0, 0]))).toBe(0);
    expect(lifted(sheet(0.2), box([0, 2, 0]))).toBe(0);
  });

  it('counts only what cloth can meet, and that where it covers the thing', () => {
    expect(lifted(sheet(0), createScenery({ name: 'Deck', shape: { kind: 'box' } }))).toBe(0);
    expect(lifted(sheet(0), box([0, 0, 0], { enabled: false }))).toBe(0);
    // A step with a tower on one end: over the step the sheet goes no higher than the step.
    const step = makeOneMesh([boxMesh({ size: [4, 0.2, 1] }), moved(boxMesh({ size: [0.4, 2, 0.4] }), 1.5)]);
    const stage = shot(sheet(-1), box([0, 0, 0], { shape: { kind: 'mesh', asset: 'step' } }));
    expect(liftClear(stage, stage.things[0]!, new Map([['step', step]]), 1)).toBeCloseTo(1.1 + 0.008, 5);
  });

  it('is nothing for what has no body of its own', () => {
    expect(lifted(createMount({ name: 'Mount', position: [0, -3, 0] }), ground())).toBe(0);
    expect(lifted(ground(), box([0, 5, 0]))).toBe(0);
  });
});

describe('taking a thing to the ground', () => {
  it('puts its lowest point there, however it is turned', () => {
    expect(dropped(box([0, 4, 0]))).toBeCloseTo(-3.5, 6);
    expect(dropped(box([0, 0, 0]), ground(0.25))).toBeCloseTo(0.75, 6);
    const turned = box([0, 2, 0], { rotation: [0, 0, Math.PI / 4] });
    expect(dropped(turned)).toBeCloseTo(-2 + Math.SQRT1_2, 5);
    expect(dropped(createMount({ name: 'Mount', position: [0, 3, 0] }), ground(1))).toBeCloseTo(-2, 6);
  });
});

describe('the box around a thing in the world', () => {
  it('is that of its mesh in its place, and none for the endless ground', () => {
    const bounds = worldBounds(shot(box([1, 2, 3], { rotation: [0, Math.PI / 2, 0] })), box([1, 2, 3]), none, 1)!;
    bounds.low.forEach((value, axis) => expect(value).toBeCloseTo([0.5, 1.5, 2.5][axis]!, 5));
    bounds.high.forEach((value, axis) => expect(value).toBeCloseTo([1.5, 2.5, 3.5][axis]!, 5));
    expect(worldBounds(shot(ground()), ground(), none, 1)).toBeUndefined();
  });
});
