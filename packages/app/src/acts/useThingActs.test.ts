// @vitest-environment happy-dom
import {
  makeOneMesh,
  createCloth,
  createCollider,
  createMount,
  meshHash,
  offsetMesh,
  placeBy,
  poseAt,
  shapeSize,
  worldBounds,
  type Collider,
  type Mesh,
  type Pose,
  type Thing,
  type Vector3,
} from '@lumbra/core';
import { ElMessage } from 'element-plus/es/components/message/index.mjs';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useKeyingStore } from '../stores/keying';
import { openBench } from '../testing/openBench';
import { ADDABLE, useThingActs } from './useThingActs';

const hashed = (mesh: Mesh) => Promise.resolve({ mesh, hash: meshHash(mesh) });
/** What the worker for meshes does, filled in below. */
const mesh = vi.hoisted(() => ({}) as object);
Object.assign(mesh, {
  offset: (of: Mesh, distance: number) => hashed(offsetMesh(of, distance)),
  makeOneMesh: (parts: { mesh: Mesh; pose: Pose }[]) =>
    hashed(makeOneMesh(parts.map(({ mesh: one, pose }) => placeBy(one, pose)))),
});
vi.mock('../workers/hosts', async () => (await import('../testing/nearHosts')).nearHosts({ mesh }));

const box = (
  name: string,
  position: [number, number, number] = [0, 0.5, 0],
  more: Partial<Parameters<typeof createCollider>[0]> = {},
) =>
  createCollider({
    ...{ id: name.toLowerCase(), name, shape: { kind: 'box', width: 1, height: 1, depth: 1 } },
    ...more,
    position,
  });

async function open(things: Thing[] = []) {
  const bench = await openBench(things);
  const centre = (name: string) => poseAt(bench.shot(), bench.thing(name), bench.run.frame).center;
  return { ...bench, acts: useThingActs(), keying: useKeyingStore(), centre };
}

describe('the acts of the stage', () => {
  beforeEach(() => vi.clearAllMocks());

  it.each(ADDABLE)('adds a %s that stands where it is put, as one undo', async (kind) => {
    const { acts, document, selection, shot } = await open();
    acts.add(kind, [1, 0, 2]);
    const [made] = shot().things;
    expect(selection.thingId).toBe(made!.id);
    const bounds = 'shape' in made! && kind !== 'ground' ? worldBounds(shot(), made, new Map()) : null;
    if (bounds) {
      // The knot is not the same on both sides.
      if (kind !== 'knot') expect((bounds.low[0]! + bounds.high[0]!) / 2).toBeCloseTo(1, 5);
      // Solid things stand on the place; cloth floats above it.
      expect(bounds.low[1]).toBeCloseTo(kind === 'sheet' ? 1 : 0, 5);
    }
    document.undo();
    expect(shot().things).toEqual([]);
    expect(document.undoLabel).toBeUndefined();
  });

  it('begins with a sheet over a box on the ground, all in one', async () => {
    const { acts, document, shot } = await open();
    acts.addStart();
    expect(shot().things.map(({ role }) => role)).toEqual(['collider', 'collider', 'cloth']);
    expect(document.done).toHaveLength(1);
  });

  it('gives every new thing a name of its own', async () => {
    const { acts, shot } = await open();
    for (let n = 0; n < 3; n++) acts.add('ball');
    expect(new Set(shot().things.map(({ name }) => name)).size).toBe(3);
  });

  it('duplicates what is selected with what rides it, and selects the copies', async () => {
    const { acts, selection, shot, document, thing } = await open([
      box('Mast'),
      box('Boom', [0, 1, 0], { parent: 'mast' }),
    ]);
    selection.select('mast');
    selection.select('boom', true);
    acts.duplicate();
    expect(shot().things.map(({ name }) => name)).toEqual(['Mast', 'Boom', 'Mast 2', 'Boom 2']);
    expect(thing('Boom 2').parent).toBe(thing('Mast 2').id);
    expect(selection.allSelected()).toEqual([thing('Mast 2').id, thing('Boom 2').id]);
    document.undo();
    expect(shot().things).toHaveLength(2);
  });

  it('deletes what is selected; what rode it stays where it is', async () => {
    const { acts, selection, shot, centre } = await open([
      box('Mast', [2, 0, 0]),
      box('Boom', [0, 1, 0], { parent: 'mast' }),
    ]);
    selection.select('mast');
    acts.remove();
    expect(shot().things.map(({ name }) => name)).toEqual(['Boom']);
    expect(centre('Boom')).toEqual([2, 1, 0]);
    expect(selection.thingId).toBeNull();
    acts.remove();
    expect(shot().things).toHaveLength(1);
  });

  it('renames, but not to nothing, and changes roles', async () => {
    const { acts, document, thing, shot } = await open([box('Box')]);
    acts.rename('box', '');
    acts.rename('box', 'Box');
    expect(document.done).toEqual([]);
    acts.rename('box', 'Crate');
    expect(thing('Crate')).toBeDefined();
    acts.setRole('box', 'cloth');
    expect(shot().things[0]!.role).toBe('cloth');
    expect(shot().things[0]!.name).toBe('Crate');
  });

  it('refuses to let a thing ride what rides it, and says why', async () => {
    const { acts, thing } = await open([box('Mast'), box('Boom')]);
    acts.ride(['boom'], 'mast');
    acts.ride(['mast'], 'boom');
    expect(thing('Mast').parent).toBeNull();
    expect(ElMessage).toHaveBeenCalledWith(
      expect.objectContaining({ message: expect.stringContaining('“Boom” rides on “Mast” already') as string }),
    );
    acts.ride(['boom'], null);
    expect(thing('Boom').parent).toBeNull();
  });

  it('moves in the world what rides something turned, and touches only what was moved', async () => {
    const mount = createMount({ id: 'mount', name: 'Mount', position: [1, 1, 1], rotation: [0, Math.PI / 2, 0] });
    const { acts, thing, centre, document, shot } = await open([mount, box('Box', [0, 0, 0], { parent: 'mount' })]);
    const pose = poseAt(shot(), thing('Box'), 1);
    acts.moveTo(thing('Box'), { ...pose, center: [1, 1, 3] }, 'position', 'Move Box');
    centre('Box').forEach((value, axis) => expect(value).toBeCloseTo([1, 1, 3][axis]!, 6));
    expect(thing('Box').rotation).toEqual([0, 0, 0]);
    acts.moveTo(thing('Box'), poseAt(shot(), thing('Box'), 1), 'both', 'Move Box');
    expect(document.done).toHaveLength(1);
  });

  it('asks before it changes a keyed number, and leaves the others', async () => {
    const keys = [{ number: 'position.x', knots: [{ frame: 9, value: 0, ease: 'linear' as const }] }];
    const { acts, thing, keying, shot } = await open([box('Box', [0, 0.5, 0], { keys })]);
    const pose = poseAt(shot(), thing('Box'), 1);
    acts.moveTo(thing('Box'), { ...pose, center: [2, 0.5, 0] }, 'position', 'Move Box');
    expect(keying.question).toMatchObject({ thing: 'box', values: { 'position.x': 2 } });
    expect(thing('Box').keys).toEqual(keys);
  });

  it.each([
    ['same place', [3, 1, 0]],
    ['on top', [3, 2.005, 0]],
    ['middle to middle', [3, 1, 0]],
  ] as const)('aligns a thing to another one: %s', async (how, expected) => {
    const { acts, thing, centre } = await open([box('Box'), box('Other', [3, 1, 0])]);
    acts.align(thing('Box'), thing('Other'), how);
    centre('Box').forEach((value, axis) => expect(value).toBeCloseTo(expected[axis]!, 5));
  });

  it('turns a thing as another one is turned', async () => {
    const { acts, thing, centre } = await open([box('Box'), box('Other', [3, 1, 0], { rotation: [0, 0.6, 0] })]);
    acts.align(thing('Box'), thing('Other'), 'same turn');
    expect(thing('Box').rotation[1]).toBeCloseTo(0.6, 5);
    expect(centre('Box')).toEqual([0, 0.5, 0]);
  });

  it('takes a thing down to the ground, and says so when it is there already', async () => {
    const { acts, thing, centre, document } = await open([box('Box', [0, 4, 0])]);
    acts.snapToGround(thing('Box'));
    expect(centre('Box')[1]).toBeCloseTo(0.5, 5);
    acts.snapToGround(thing('Box'));
    expect(document.done).toHaveLength(1);
    expect(ElMessage).toHaveBeenCalledWith(expect.objectContaining({ type: 'info', message: 'Box is there already.' }));
  });

  it('sizes the geometry itself, and refuses what is no size', async () => {
    const { acts, thing, document } = await open([box('Box')]);
    acts.resize(thing('Box'), [2, 1, 0.5]);
    expect(shapeSize(thing<Collider>('Box').shape, new Map())).toEqual([2, 1, 0.5]);
    for (const by of [
      [0, 1, 1],
      [NaN, 1, 1],
      [-1, 1, 1],
      [Infinity, 1, 1],
    ] as Vector3[])
      acts.resize(thing('Box'), by);
    expect(document.done).toHaveLength(1);
  });

  it('makes a copy outside a thing that rides it, without its keys', async () => {
    const keys = [{ number: 'position.y', knots: [{ frame: 1, value: 2, ease: 'linear' as const }] }];
    const { acts, document, thing, shot } = await open([box('Box', [0, 0.5, 0], { keys })]);
    await acts.offsetCopy(thing('Box'), 0.02);
    const copy = thing<Collider>('Box, outer');
    expect(copy).toMatchObject({ parent: 'box', position: [0, 0, 0], keys: [] });
    const bounds = worldBounds(shot(), copy, document.assets, 1)!;
    expect(bounds.high[0]! - bounds.low[0]!).toBeCloseTo(1.04, 4);
    expect((bounds.high[1]! + bounds.low[1]!) / 2).toBeCloseTo(2, 4);
  });

  it('makes one mesh of things in the place of the one that was selected last', async () => {
    const { acts, selection, document, shot, thing } = await open([
      box('Left', [-1, 0.5, 0]),
      box('Right', [1, 0.5, 0], { rotation: [0, Math.PI / 2, 0] }),
      createCloth({ id: 'c', name: 'Cloth' }),
    ]);
    const before = worldBounds(shot(), thing('Left'), document.assets, 1)!;
    selection.select('left');
    selection.select('right', true);
    await acts.makeOneMesh();
    expect(shot().things.map(({ name }) => name)).toEqual(['Right', 'Cloth']);
    const after = worldBounds(shot(), thing('Right'), document.assets, 1)!;
    expect(after.low[0]).toBeCloseTo(before.low[0]!, 5);
    document.undo();
    expect(shot().things).toHaveLength(3);
    // One thing alone is no reason to make a mesh of it.
    selection.select('left');
    await acts.makeOneMesh();
    expect(thing<Collider>('Left').shape.kind).toBe('box');
  });

  it('changes nothing where another tab edits the shot', async () => {
    const { acts, selection, document, shot, thing } = await open([box('Box')]);
    const before = shot();
    document.readOnly = true;
    selection.select('box');
    acts.add('ball');
    acts.duplicate();
    acts.resize(thing('Box'), [2, 2, 2]);
    await acts.offsetCopy(thing('Box'), 0.1);
    acts.remove();
    expect(shot()).toBe(before);
    expect(document.assets.size).toBe(0);
  });
});
