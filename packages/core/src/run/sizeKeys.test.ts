import { describe, expect, it } from 'vitest';
import { checkShot } from '../checks';
import { createCloth, createCollider, createScenery, createShot, createTie } from '../shot/create';
import type { Shot, Thing } from '../shot/schema';
import { SHAPES, type Shape } from '../shot/shapes';
import { hasSizeKeys, meshAt, shapeAt, sizeNumbers } from '../shot/shapes/sizeKeys';
import { BakeRun } from './bakeRun';
import { compile, CompileError } from './compile';
import { inputsHash, runInputs } from './inputs';
import { liftClear, toGround } from './liftClear';
import { worldBounds } from './worldBounds';

const NO_ASSETS = new Map();
const track = (number: string, ...knots: [frame: number, value: number][]) => ({
  number,
  knots: knots.map(([frame, value]) => ({ frame, value, ease: 'linear' as const })),
});

/** Of a keyed shape, on nothing else of which these tests depend. */
function keyedThing(shape: Shape, keys: ReturnType<typeof track>[], position: [number, number, number] = [0, 0, 0]) {
  return createCollider({ id: 'thing', name: 'Thing', shape, keys, position });
}

function baked(things: Thing[], frames: number, change: Partial<Shot> = {}) {
  const shot = createShot({ ...{ id: 's', name: 'Sizes', lastFrame: frames, things }, ...change } as never);
  const run = new BakeRun(shot, NO_ASSETS);
  return Array.from({ length: frames }, () => run.next());
}

const sheetAt = (height: number, spacing = 0.03) =>
  createCloth({
    ...{ id: 'sheet', name: 'Sheet', card: 'linen-mid', position: [0.004, height, 0.003] },
    shape: { kind: 'sheet', width: 0.4, height: 0.4, spacing },
  });

describe('a shape whose sizes are keyed', () => {
  const kinds = Object.values(SHAPES).flatMap(({ schema, start }) => {
    const read = schema.safeParse({ kind: schema.shape.kind.value, ...start });
    return read.success && Object.keys(sizeNumbers(read.data as Shape)).length > 0 ? [read.data as Shape] : [];
  });

  it.each(kinds.map((shape) => [shape.kind, shape] as const))('%s keeps its faces at any frame', (_, shape) => {
    for (const [number, { min }] of Object.entries(sizeNumbers(shape))) {
      const now = (shape as unknown as Record<string, number>)[number.slice(6)]! || 0.01;
      // From as little as there can be to nine tenths, where all others still fit it.
      const thing = keyedThing(shape, [track(number, [1, Math.max(min, now * 0.6)], [9, Math.max(min, now * 0.9)])]);
      const meshes = [1, 4.3, 9].map((frame) => meshAt(thing, NO_ASSETS, frame));
      for (const mesh of meshes) expect(mesh.triangles).toEqual(meshes[0]!.triangles);
      expect(meshes[2]!.positions).not.toEqual(meshes[0]!.positions);
    }
  });

  it('is that of the document where nothing is keyed, and between its knots otherwise', () => {
    const shape: Shape = { kind: 'cylinder', radius: 0.2, height: 1, segments: 24 };
    const plain = keyedThing(shape, []);
    expect(hasSizeKeys(plain)).toBe(false);
    expect(shapeAt(plain, 7)).toBe(plain.shape);
    const keyed = keyedThing(shape, [track('shape.radius', [1, 0.2], [11, 0.1])]);
    const half = shapeAt(keyed, 6) as Extract<Shape, { kind: 'cylinder' }>;
    expect(half.radius).toBeCloseTo(0.15, 9);
    expect(half.height).toBe(1);
  });

  it('lifts what lies on it, by as much as it grows, and nothing passes through', () => {
    const box = keyedThing(
      { kind: 'box', width: 0.3, height: 0.2, depth: 0.3 },
      [track('shape.height', [1, 0.2], [12, 0.2], [24, 0.5])],
      [0, 0.1, 0],
    );
    const frames = baked([sheetAt(0.203), box], 32);
    for (const { stats } of frames) expect(stats).toMatchObject({ crossings: 0, pierced: 0, kept: true });
    const highest = (frame: number) => Math.max(...frames[frame]!.positions[0]!.filter((_, i) => i % 3 === 1));
    // Half of it grows up from the middle.
    expect(highest(31) - highest(11)).toBeCloseTo(0.15, 2);
  });

  it('is met where it comes up between the points of cloth, at 2 m/s', () => {
    const spike = keyedThing(
      { kind: 'cone', radius: 0.02, topRadius: 0, height: 0.2, segments: 12 },
      [track('shape.height', [1, 0.2], [6, 0.2], [10, 0.86])],
      [0, 0, 0],
    );
    const ground = createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' }, position: [0, -0.5, 0] });
    for (const { stats } of baked([sheetAt(0.17, 0.04), spike, ground], 14)) {
      expect(stats).toMatchObject({ crossings: 0, pierced: 0 });
    }
  });

  it('takes along what is tied to it', () => {
    const ring = createScenery({
      ...{ id: 'ring', name: 'Ring', shape: { kind: 'ring', radius: 0.2, tubeRadius: 0.01, segments: 48 } },
      keys: [track('shape.radius', [1, 0.2], [13, 0.28])],
    });
    const cloth = sheetAt(0);
    const { positions } = meshAt(cloth, NO_ASSETS, 1);
    const points = [...Array(positions.length / 3).keys()].filter((point) => {
      const away = Math.hypot(positions[point * 3]!, positions[point * 3 + 2]!);
      return away > 0.19 && away < 0.21;
    });
    expect(points.length).toBeGreaterThan(4);
    const tie = createTie({ id: 'tie', name: 'Tie', points, to: 'ring' });
    const frames = baked([{ ...cloth, ties: [tie] }, ring], 13, { run: { quality: 'draft', substeps: null } });
    const awayFrom = (frame: number, point: number) => {
      const at = frames[frame]!.positions[0]!;
      return Math.hypot(at[point * 3]!, at[point * 3 + 2]!);
    };
    for (const point of points) expect(awayFrom(12, point) - awayFrom(0, point)).toBeCloseTo(0.08, 2);
  });

  it('makes a bake stale when its keys change, also where it only holds', () => {
    const hash = (thing: Thing, holds: boolean) => {
      const cloth = sheetAt(0.5);
      const ties = holds ? [createTie({ id: 'tie', name: 'Tie', points: [0], to: 'thing' })] : [];
      const shot = createShot({ id: 's', name: 'S', things: [{ ...cloth, ties }, thing] } as never);
      return inputsHash(runInputs(shot, NO_ASSETS));
    };
    const shape: Shape = { kind: 'ring', radius: 0.3, tubeRadius: 0.05, segments: 48 };
    const keys = (end: number) => [track('shape.radius', [1, 0.3], [20, end])];
    expect(hash(keyedThing(shape, keys(0.2)), false)).not.toBe(hash(keyedThing(shape, keys(0.1)), false));
    const holder = (end: number) => createScenery({ id: 'thing', name: 'Thing', shape, keys: keys(end) });
    expect(hash(holder(0.2), true)).not.toBe(hash(holder(0.1), true));
    expect(hash(holder(0.2), false)).toBe(hash(holder(0.1), false));
  });

  it('is refused, by frame and reason, where its keys make a shape that cannot be', () => {
    const tube = keyedThing({ kind: 'tube', radius: 0.2, wall: 0.02, height: 0.5, segments: 24 }, [
      track('shape.wall', [1, 0.02], [30, 0.25]),
    ]);
    const shot = createShot({ id: 's', name: 'S', things: [sheetAt(1), tube] } as never);
    expect(() => compile(shot, NO_ASSETS)).toThrow(CompileError);
    expect(() => compile(shot, NO_ASSETS)).toThrow(
      '“Thing” has no shape at frame 30: the wall is as thick as the tube.',
    );
  });

  it('is seen at its size of the frame by what measures, lifts and checks things', () => {
    const box = keyedThing(
      { kind: 'box', width: 0.3, height: 0.2, depth: 0.3 },
      [track('shape.height', [1, 0.2], [2, 0.2], [3, 6.2])],
      [0, 0.1, 0],
    );
    const cloth = sheetAt(0.15);
    const shot = createShot({ id: 's', name: 'S', lastFrame: 8, things: [cloth, box] } as never);
    expect(worldBounds(shot, box, NO_ASSETS, 1)!.high[1]).toBeCloseTo(0.2, 6);
    expect(worldBounds(shot, box, NO_ASSETS, 3)!.high[1]).toBeCloseTo(3.2, 6);
    expect(liftClear(shot, cloth, NO_ASSETS, 3) - liftClear(shot, cloth, NO_ASSETS, 1)).toBeCloseTo(3, 5);
    expect(toGround(shot, box, NO_ASSETS, 3)).toBeCloseTo(3, 5);
    // 72 m/s: farther in one of its substeps than it is thick.
    const fast = { ...shot, run: { ...shot.run, substeps: 4 } };
    expect(checkShot(fast, NO_ASSETS, { bake: null, bytesFree: null }).map(({ check }) => check)).toContain(
      'fast-collider',
    );
  });

  it('keys no number that would change how many points there are, and none of cloth', () => {
    expect(sizeNumbers({ kind: 'sheet', width: 1, height: 1, spacing: 0.1 })).toEqual({});
    expect(Object.keys(sizeNumbers({ kind: 'ring', radius: 1, tubeRadius: 0.1, segments: 48 }))).toEqual([
      'shape.radius',
      'shape.tubeRadius',
    ]);
  });
});
