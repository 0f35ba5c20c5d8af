import { describe, expect, it } from 'vitest';
import { createAir, createCloth, createCollider, createShot } from '../shot/create';
import type { AirThing, Shot, Thing } from '../shot/schema';
import { BakeRun } from './bakeRun';
import type { Mesh } from '../mesh/mesh';

const none = new Map<string, Mesh>();
const UPRIGHT: [number, number, number] = [Math.PI / 2, 0, 0];

/** A small upright patch of cloth that nothing holds, without gravity: its speed tells the force on it. */
function patch(things: readonly (AirThing | Thing)[], more: Partial<Shot> = {}): Shot {
  const cloth = createCloth({
    id: 'patch',
    name: 'Patch',
    card: 'canvas',
    shape: { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.05 },
    position: [0, 1, 0],
    rotation: UPRIGHT,
  });
  const gravity = { enabled: false };
  return createShot({
    name: 'Air',
    lastFrame: 24,
    gravity,
    run: { substeps: 24 },
    things: [cloth, ...things],
    ...more,
  });
}

/** Where the middle of the patch is after so many frames, x y z in m. */
function middleAfter(shot: Shot, frames: number): [number, number, number] {
  const run = new BakeRun(shot, none);
  let positions = new Float32Array();
  for (let n = 0; n <= frames; n++) positions = run.next().positions[0]! as Float32Array<ArrayBuffer>;
  return [0, 1, 2].map(
    (axis) =>
      [...positions].filter((_, i) => i % 3 === axis).reduce((sum, value) => sum + value, 0) / (positions.length / 3),
  ) as [number, number, number];
}

/** Air 1 m before the patch that blows along z. */
const air = (numbers: object, more: object = {}): AirThing =>
  createAir({ id: 'air', name: 'Air', position: [0, 1, -1], air: numbers as never, ...more });
const FULL = { edge: 0, fading: 0, width: 5, length: 5 };

describe('air', () => {
  it('drives cloth in a beam exactly as in an even wind', () => {
    const even = middleAfter(patch([air({ kind: 'wind', speed: 4 })]), 6);
    const beam = middleAfter(patch([air({ kind: 'beam', speed: 4, ...FULL })]), 6);
    expect(even[2]).toBeGreaterThan(0.02);
    expect(beam[2]).toBeCloseTo(even[2], 6);
  });

  it('adds up, and turns with the thing that it is', () => {
    const whole = middleAfter(patch([air({ kind: 'wind', speed: 4 })]), 4)[2];
    const halves = [
      air({ kind: 'wind', speed: 2 }),
      createAir({ id: 'b', name: 'B', position: [0, 1, -1], air: { kind: 'beam', speed: 2, ...FULL } }),
    ];
    expect(middleAfter(patch(halves), 4)[2]).toBeCloseTo(whole, 6);
    const turned = middleAfter(patch([air({ kind: 'wind', speed: 4 }, { rotation: [0, Math.PI, 0] })]), 4);
    expect(turned[2]).toBeCloseTo(-whole, 5);
  });

  it('is still beside a beam, and behind what stands in it', () => {
    const beside = air({ kind: 'beam', speed: 8, width: 0.5 }, { position: [1, 1, -1] });
    expect(Math.abs(middleAfter(patch([beside]), 6)[2])).toBeLessThan(1e-5);
    const wall = createCollider({
      id: 'wall',
      name: 'Wall',
      shape: { kind: 'box', width: 2, height: 2, depth: 0.05 },
      position: [0, 1, -0.3],
    });
    const open = middleAfter(patch([air({ kind: 'wind', speed: 6, shadow: 0 }), wall]), 4)[2];
    const shaded = middleAfter(patch([air({ kind: 'wind', speed: 6, shadow: 1 }), wall]), 4)[2];
    expect(open).toBeGreaterThan(0.02);
    expect(shaded).toBeLessThan(0.05 * open);
  });

  it('is not kept off by where cloth that goes with it was a moment ago', () => {
    const gale = (shadow: number) => patch([air({ kind: 'wind', speed: 30, shadow })]);
    expect(middleAfter(gale(0), 10)[2]).toBeGreaterThan(3);
    expect(middleAfter(gale(1), 10)[2]).toBeCloseTo(middleAfter(gale(0), 10)[2], 5);
  });

  it('that goes round is kept off by what it comes by before', () => {
    const swirl = (shadow: number) =>
      air(
        { kind: 'swirl', speed: 5, core: 1, reach: 4, height: 3, rise: 0, draw: 0, shadow, shadowReach: 4 },
        { position: [1, 0, 0] },
      );
    // At 1 m from the axis, 40 degrees up the way of the patch.
    const wall = createCollider({
      id: 'wall',
      name: 'Wall',
      shape: { kind: 'box', width: 1.2, height: 2, depth: 0.05 },
      position: [0.234, 1, -0.643],
      rotation: [0, -0.698, 0],
    });
    const open = middleAfter(patch([swirl(0), wall]), 4)[2];
    expect(open).toBeGreaterThan(0.01);
    expect(middleAfter(patch([swirl(1), wall]), 4)[2]).toBeLessThan(0.05 * open);
    // A wall down the way keeps nothing off.
    const after = {
      ...wall,
      position: [0.234, 1, 0.643] as [number, number, number],
      rotation: [0, 0.698, 0] as never,
    };
    expect(middleAfter(patch([swirl(1), after]), 4)[2]).toBeGreaterThan(0.95 * open);
  });

  it('goes round in a swirl', () => {
    const swirl = air(
      { kind: 'swirl', speed: 5, core: 0.5, reach: 3, height: 3, rise: 0, draw: 0 },
      { position: [-0.5, 0, 0] },
    );
    const at = middleAfter(patch([swirl]), 6);
    // At +x of the axis, a turn about +y blows to −z.
    expect(at[2]).toBeLessThan(-0.01);
    expect(Math.abs(at[0])).toBeLessThan(0.3 * Math.abs(at[2]));
  });

  it('moves cloth hither and thither with turbulence, and goes on with it bit for bit', () => {
    const shot = patch([air({ kind: 'turbulence', strength: 5, eddySize: 0.6 })]);
    expect(Math.hypot(...middleAfter(shot, 8).map((value, i) => value - [0, 1, 0][i]!))).toBeGreaterThan(0.005);
    const whole = new BakeRun(shot, none);
    for (let n = 0; n < 4; n++) whole.next();
    const resumed = new BakeRun(shot, none, whole.checkpoint());
    expect([...resumed.next().positions[0]!]).toEqual([...whole.next().positions[0]!]);
  });
});

describe('an attractor', () => {
  const at = (numbers: object, more: object = {}) =>
    createAir({ id: 'a', name: 'Pull', position: [0, 1, 1], air: { kind: 'attractor', ...numbers } as never, ...more });

  it('draws by its acceleration, whatever cloth weighs', () => {
    const pull = at({ pull: 0, acceleration: 2, reach: 50, falloff: 0 });
    // In still air, which brakes little at first: half of 2 m/s² by the square of 0.25 s.
    expect(middleAfter(patch([pull]), 6)[2]).toBeCloseTo(0.5 * 2 * 0.25 ** 2, 2);
    const away = at({ pull: 0, acceleration: -2, reach: 50, falloff: 0 });
    expect(middleAfter(patch([away]), 6)[2]).toBeCloseTo(-0.5 * 2 * 0.25 ** 2, 2);
  });

  it('leaves alone what is out of its reach', () => {
    expect(Math.abs(middleAfter(patch([at({ acceleration: 5, reach: 0.5 })]), 6)[2])).toBeLessThan(1e-6);
  });

  it('holds what is in its grip until more pulls', () => {
    // Canvas in gravity: held by twice its weight, not by half of it.
    const weight = 9.81 * createCloth({ name: 'Patch', card: 'canvas' }).fabric.weight;
    const held = (grip: number) =>
      middleAfter(
        patch([at({ pull: 0, grip, gripReach: 3, reach: 3 }, { position: [0, 1, 0] })], {
          gravity: { enabled: true, strength: 9.81, lean: 0, towards: 0 },
        }),
        12,
      )[1];
    expect(held(2 * weight)).toBeCloseTo(1, 3);
    // Half of gravity for half a second, less what air brakes.
    expect(held(0.5 * weight)).toBeLessThan(0.6);
    expect(held(0.5 * weight)).toBeGreaterThan(1 - 0.5 * 0.5 * 9.81 * 0.5 ** 2 - 0.02);
  });

  it('holds against wind as against weight', () => {
    const inWind = (grip: number) =>
      middleAfter(
        patch([
          createAir({ id: 'w', name: 'Wind', air: { kind: 'wind', speed: 4 } }),
          at({ pull: 0, grip, gripReach: 3, reach: 3 }, { position: [0, 1, 0] }),
        ]),
        12,
      )[2];
    expect(inWind(0)).toBeGreaterThan(0.1);
    expect(Math.abs(inWind(60))).toBeLessThan(1e-4);
  });

  it('carries what it holds along its path', () => {
    const keys = [
      {
        number: 'position.x',
        knots: [
          { frame: 1, value: 0 },
          { frame: 25, value: 2 },
        ],
      },
    ];
    const carrier = at({ pull: 0, grip: 200, gripReach: 3, reach: 3 }, { position: [0, 1, 0], keys });
    expect(middleAfter(patch([carrier]), 24)[0]).toBeCloseTo(2, 1);
  });

  it('stays bounded with a million newtons in the middle of the cloth', () => {
    const shot = patch([at({ pull: 1e6, reach: 2 }, { position: [0, 1, 0] })], { lastFrame: 4 });
    const run = new BakeRun(shot, none);
    for (let n = 0; n < 4; n++) expect(run.next().positions[0]!.every((value) => Math.abs(value) < 1000)).toBe(true);
  });
});
