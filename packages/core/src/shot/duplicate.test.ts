import { describe, expect, it } from 'vitest';
import { applyPose } from '../math/pose';
import type { Mesh } from '../mesh/mesh';
import { box as boxMesh } from '../mesh/shapes/box';
import { createCloth, createCollider, createMount, createPinSet, createShot, createTie } from './create';
import { copiesOf } from './duplicate';
import { poseAt } from './placement';
import { readShot } from './readShot';
import type { Cloth, Shot, Thing } from './schema';
import { shapeMesh } from './shapes';

const SHAPE = { kind: 'sheet', width: 0.5, height: 0.4, spacing: 0.1 } as const;
const none = new Map<string, Mesh>();

function shot(): Shot {
  const wire = createCollider({
    id: 'wire',
    name: 'Wire',
    shape: { kind: 'box', width: 2, height: 0.05, depth: 0.05 },
    position: [0, 2, 0],
    parent: 'ferry',
  });
  const hood = createCloth({
    id: 'hood',
    name: 'Hood',
    shape: SHAPE,
    position: [0, 1.9, 0],
    parent: 'wire',
    pinSets: [
      createPinSet({ id: 'own', name: 'Own', points: [0], rides: 'hood' }),
      createPinSet({ id: 'still', name: 'Still', points: [1] }),
    ],
    ties: [createTie({ id: 'hooks', name: 'Hooks', points: [2], to: 'wire' })],
  });
  const ferry = createMount({ id: 'ferry', name: 'Ferry', position: [0, 0, 3], rotation: [0, Math.PI / 2, 0] });
  return createShot({ name: 'Ferry', things: [ferry, wire, hood] });
}

/** The shot with copies of some things, as the document takes it. */
function duplicated(start: Shot, ids: string[], assets = none): { shot: Shot; copies: Thing[] } {
  const { things } = copiesOf(start, ids, assets);
  const after = { ...start, things: [...start.things, ...things] };
  return { shot: readShot(structuredClone(after)), copies: things };
}

describe('copies of things', () => {
  it('have names and ids of their own, and leave the shot as it was', () => {
    const start = shot();
    const before = structuredClone(start);
    const { copies } = duplicated(start, ['wire', 'hood']);
    expect(copies.map(({ name }) => name)).toEqual(['Wire 2', 'Hood 2']);
    expect(new Set([...start.things, ...copies].map(({ id }) => id)).size).toBe(5);
    expect(start).toEqual(before);
    const twice = copiesOf({ ...start, things: [...start.things, ...copies] }, ['wire'], none);
    expect(twice.things[0]!.name).toBe('Wire 3');
  });

  it('stand beside what they are copies of, by a little more than its width, their keys with them', () => {
    const start = shot();
    const wire = start.things[1]!;
    wire.keys = [
      {
        number: 'position.x',
        knots: [
          { frame: 1, value: 0, ease: 'linear' },
          { frame: 9, value: 1, ease: 'linear' },
        ],
      },
    ];
    const { copies, shot: after } = duplicated(start, ['wire']);
    for (const frame of [1, 5, 9]) {
      const [from, to] = [wire, copies[0]!].map((thing) => poseAt(after, thing, frame).center);
      // Along the carrier’s own x, which is −z in the world.
      expect(to!.map((value, axis) => value - from![axis]!)).toEqual([
        expect.closeTo(0, 6),
        expect.closeTo(0, 6),
        expect.closeTo(-2.2, 6),
      ]);
    }
  });

  it('ride, hang from and follow the copies of what was copied with them, and what they did where that was not', () => {
    const together = duplicated(shot(), ['wire', 'hood']).copies;
    const [wire, hood] = together as [Thing, Cloth];
    expect(wire.parent).toBe('ferry');
    expect(hood.parent).toBe(wire.id);
    expect(hood.ties[0]!.to).toBe(wire.id);
    expect(hood.pinSets.map(({ rides }) => rides)).toEqual([hood.id, null]);
    // The copied wire carries it aside: it is not moved once more.
    expect(hood.position).toEqual([0, 1.9, 0]);
    const alone = duplicated(shot(), ['hood']).copies[0] as Cloth;
    expect(alone.parent).toBe('wire');
    expect(alone.ties[0]!.to).toBe('wire');
    expect(alone.pinSets[0]!.rides).toBe(alone.id);
    expect(alone.position[0]).toBeCloseTo(0.55, 9);
  });

  it('take a settled start along to where they are', () => {
    const start = shot();
    const hood = start.things[2] as Cloth;
    hood.start = 'settled';
    const mesh = shapeMesh(SHAPE, none);
    const pose = poseAt(start, hood, 1);
    const settled = {
      ...mesh,
      positions: Float32Array.from({ length: mesh.positions.length }, (_, i) => {
        const at = [0, 1, 2].map((axis) => mesh.positions[i - (i % 3) + axis]!) as [number, number, number];
        return applyPose(pose, [at[0], at[1] - 0.1, at[2]])[i % 3]!;
      }),
    };
    const { things, assets } = copiesOf(start, ['hood'], new Map([['settled', settled]]));
    const copy = things[0] as Cloth;
    expect(copy.start).not.toBe('settled');
    const moved = assets.get(copy.start!)!.positions;
    for (let i = 0; i < moved.length; i += 3) {
      expect(moved[i]).toBeCloseTo(settled.positions[i]!, 5);
      expect(moved[i + 1]).toBeCloseTo(settled.positions[i + 1]!, 5);
      expect(moved[i + 2]).toBeCloseTo(settled.positions[i + 2]! - 0.55, 5);
    }
    // One whose pose is lost stays as it is: the checks say so.
    expect((copiesOf(start, ['hood'], none).things[0] as Cloth).start).toBe('settled');
  });

  it('share the mesh of a mesh shape', () => {
    const start = createShot({
      name: 'Mesh',
      things: [createCollider({ id: 'm', name: 'Block', shape: { kind: 'mesh', asset: 'a' } })],
    });
    const assets = new Map([['a', boxMesh({ size: [0.3, 1, 1] })]]);
    const { things, assets: made } = copiesOf(start, ['m'], assets);
    expect(things[0]).toMatchObject({ shape: { kind: 'mesh', asset: 'a' } });
    expect(things[0]!.position[0]).toBeCloseTo(0.33, 6);
    expect(made.size).toBe(0);
  });
});
