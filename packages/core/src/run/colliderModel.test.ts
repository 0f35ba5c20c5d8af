import { describe, expect, it } from 'vitest';
import type { Mesh } from '../mesh/mesh';
import { box } from '../mesh/shapes/box';
import { createCollider, createShot } from '../shot/create';
import type { Collider } from '../shot/schema';
import { signedVolume } from '../mesh/volume';
import type { ColliderModel } from '../solver/model';
import { colliderModel, isFitted, rememberContactShape, contactShapeBody } from './colliderModel';

const key = (number: string, from: number, to: number) => ({
  number,
  knots: [
    { frame: 1, value: from, ease: 'linear' as const },
    { frame: 25, value: to, ease: 'linear' as const },
  ],
});
const block = box({ size: [0.4, 0.2, 0.6] });
const assets = new Map<string, Mesh>([['block', block]]);
const frameAt = (time: number) => 1 + time * 24;

function model(given: Partial<Parameters<typeof createCollider>[0]>, moving = true): ColliderModel {
  const collider = createCollider({ id: 'c', name: 'Thing', position: [1, 2, 3], ...given });
  const shot = createShot({ name: 'Shot', things: [collider] });
  return colliderModel(shot.things[0] as Collider, { shot, assets, frame: 1, frameAt: moving ? frameAt : null });
}

describe('a collider as the solver takes it', () => {
  it.each([
    [{ kind: 'ground' } as const, { kind: 'plane' }],
    [{ kind: 'ball', radius: 0.3 } as const, { kind: 'ball', radius: 0.3 }],
    [{ kind: 'box', width: 1, height: 2, depth: 3 } as const, { kind: 'box', size: [1, 2, 3] }],
    [{ kind: 'cylinder', radius: 0.2, height: 1 } as const, { kind: 'cylinder', radius: 0.2, height: 1 }],
    [{ kind: 'capsule', radius: 0.2, height: 1 } as const, { kind: 'capsule', radius: 0.2, height: 1 }],
    [{ kind: 'mesh', asset: 'block' } as const, { kind: 'mesh', mesh: block }],
  ])('is its shape itself where that is simple: %o', (shape, expected) => {
    expect(model({ shape })).toMatchObject({ ...expected, id: 'c', center: [1, 2, 3] });
  });

  it('stands still unless it is moved, and its touch stays unless that is keyed', () => {
    expect(model({})).not.toHaveProperty('poseAt');
    expect(model({})).not.toHaveProperty('touchAt');
    const moved = model({ keys: [key('position.x', 1, 3), key('friction', 0, 1)] });
    expect(moved.poseAt!(0.5).center).toEqual([2, 2, 3]);
    expect(moved.touchAt!(0.5)).toMatchObject({ friction: 0.5 });
    expect(moved.center).toEqual([1, 2, 3]);
    expect(moved.friction).toBe(0);
    // For settling everything stands.
    const still = model({ keys: [key('position.x', 1, 3), key('friction', 0, 1)] }, false);
    expect(still).not.toHaveProperty('poseAt');
    expect(still).not.toHaveProperty('touchAt');
  });

  it('says which side cloth is on only where that was set', () => {
    expect(model({ shape: { kind: 'mesh', asset: 'block' } })).not.toHaveProperty('side');
    expect(model({ shape: { kind: 'mesh', asset: 'block' }, side: 'inside' }).side).toBe('inside');
  });

  it.each([
    ['box', { kind: 'box' }],
    ['ball', { kind: 'ball' }],
    ['cylinder', { kind: 'cylinder' }],
    ['capsule', { kind: 'capsule' }],
    ['coarse hull', { kind: 'mesh' }],
  ] as const)('is a %s where that stands in for its mesh', (contactShape, expected) => {
    const made = model({ shape: { kind: 'mesh', asset: 'block' }, contactShape });
    expect(made).toMatchObject(expected);
    if (made.kind === 'box')
      expect([...made.size].sort()).toEqual([0.2, 0.4, 0.6].map((side) => expect.closeTo(side, 4) as number));
    if (made.kind === 'mesh') expect(signedVolume(made.mesh)).toBeCloseTo(0.4 * 0.2 * 0.6, 5);
    made.center.forEach((value, axis) => expect(value).toBeCloseTo([1, 2, 3][axis]!, 4));
  });

  it('moves what stands in around the thing, where that is not in its middle', () => {
    const aside = { ...block, positions: block.positions.map((value, i) => (i % 3 === 0 ? value + 1 : value)) };
    assets.set('aside', aside);
    const made = model({
      shape: { kind: 'mesh', asset: 'aside' },
      contactShape: 'ball',
      rotation: [0, Math.PI / 2, 0],
      keys: [key('position.y', 2, 4)],
    });
    // Turned about the upright, its +x is −z of the world.
    for (const [time, height] of [
      [0, 2],
      [0.5, 3],
    ] as const) {
      made.poseAt!(time).center.forEach((value, axis) => expect(value).toBeCloseTo([1, height, 2][axis]!, 3));
    }
  });

  it('is fitted once, here or on another thread', () => {
    const mesh = box({ size: [1, 1, 1] });
    expect(isFitted(mesh, 'exact')).toBe(true);
    expect(isFitted(mesh, 'ball')).toBe(false);
    const body = contactShapeBody(mesh, 'ball');
    expect(isFitted(mesh, 'ball')).toBe(true);
    expect(contactShapeBody(mesh, 'ball')).toBe(body);
    const other = { kind: 'ball', radius: 9 } as const;
    rememberContactShape(mesh, 'capsule', other);
    expect(contactShapeBody(mesh, 'capsule')).toBe(other);
  });
});
