import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { box } from '../mesh/shapes/box';
import { bounds, size } from '../mesh/bounds';
import { changeRole } from './changeRole';
import { createCloth, createCollider, createMount, createShot } from './create';
import { edit } from './edit';
import { deleteKnots, keyNow, moveKnots, setKnot, shiftCurve } from './editKeys';
import { valueAt } from './keys';
import { removeThing, setParent } from './parent';
import { poseAt } from './placement';
import { readShot } from './readShot';
import { resizeShape, shapeSize } from './resize';
import { SHAPES, shapeMesh, type Shape } from './shapes';

const shot = () =>
  createShot({
    name: 'Deck',
    lastFrame: 48,
    things: [
      createMount({ id: 'mast', name: 'Mast', position: [1, 0, 0], rotation: [0, 0.5, 0] }),
      createCollider({ id: 'boom', name: 'Boom', position: [0, 2, 0] }),
      createCollider({ id: 'block', name: 'Block', position: [0, 3, 1] }),
      createCloth({ id: 'sail', name: 'Sail' }),
    ],
  });
const thing = (of: ReturnType<typeof shot>, id: string) => of.things.find((candidate) => candidate.id === id)!;
const x = { thing: 'boom', number: 'position.x' };

describe('editing keys', () => {
  it('sets, moves, copies, shifts and deletes knots', () => {
    let now = edit(shot(), 'Key', (draft) => {
      setKnot(draft, { ...x, frame: 20 }, 2);
      setKnot(draft, { ...x, frame: 10 }, 1, 'linear');
      setKnot(draft, { ...x, frame: 10 }, 1.5);
    }).shot;
    expect(thing(now, 'boom').keys[0]!.knots).toEqual([
      { frame: 10, value: 1.5, ease: 'linear' },
      { frame: 20, value: 2, ease: 'smooth' },
    ]);
    now = edit(now, 'Move', (draft) => moveKnots(draft, [{ ...x, frame: 10 }], -4)).shot;
    now = edit(now, 'Copy', (draft) =>
      moveKnots(
        draft,
        [
          { ...x, frame: 6 },
          { ...x, frame: 20 },
        ],
        20,
        true,
      ),
    ).shot;
    expect(thing(now, 'boom').keys[0]!.knots.map(({ frame }) => frame)).toEqual([6, 20, 26, 40]);
    now = edit(now, 'Shift', (draft) => shiftCurve(draft, x, 1)).shot;
    expect(valueAt(thing(now, 'boom'), 'position.x', 6)).toBe(2.5);
    now = edit(now, 'Delete', (draft) =>
      deleteKnots(
        draft,
        [6, 20, 26, 40].map((frame) => ({ ...x, frame })),
      ),
    ).shot;
    expect(thing(now, 'boom').keys).toEqual([]);
    expect(thing(now, 'boom').position[0]).toBe(3);
  });

  it('keys numbers as they are, of things and of gravity', () => {
    const now = edit(shot(), 'Key', (draft) => {
      keyNow(draft, 'boom', ['position.y', 'friction'], 5);
      keyNow(draft, null, ['gravity.strength'], 1);
      keyNow(draft, 'sail', ['fabric.restWarp'], 1);
    }).shot;
    expect(valueAt(thing(now, 'boom'), 'position.y', 30)).toBe(2);
    expect(now.keys[0]!.knots).toEqual([{ frame: 1, value: 9.81, ease: 'smooth' }]);
    expect(readShot(JSON.parse(JSON.stringify(now)))).toEqual(now);
  });

  it.each<[string, (draft: ReturnType<typeof shot>) => void, RegExp]>([
    [
      'outside the shot',
      (draft) => setKnot(draft, { ...x, frame: 60 }, 0),
      /frame 60 lies outside the shot, which runs from 1 to 48/,
    ],
    [
      'twice at a frame',
      (draft) => {
        setKnot(draft, { ...x, frame: 3 }, 0);
        setKnot(draft, { ...x, frame: 5 }, 0);
        moveKnots(draft, [{ ...x, frame: 3 }], 2);
      },
      /a key for place x at frame 5 already/,
    ],
    [
      'of a number that has none',
      (draft) => setKnot(draft, { thing: 'sail', number: 'position.x', frame: 3 }, 0),
      /cannot be keyed/,
    ],
    [
      'beyond the number’s range',
      (draft) => setKnot(draft, { thing: 'boom', number: 'friction', frame: 3 }, 9),
      /must be from 0 to 2/,
    ],
  ])('refuses keys %s', (_, recipe, words) => {
    expect(() => edit(shot(), 'Key', recipe)).toThrow(words);
  });
});

describe('riding', () => {
  const near = (a: readonly number[], b: readonly number[]) => a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, 5));

  it('leaves a thing where it is, keyed or not, and carries it from then on', () => {
    const turn = fc.double({ min: -3, max: 3, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(turn, turn, turn), (rotation) => {
        const keyed = edit(shot(), 'Key', (draft) => {
          thing(draft, 'mast').rotation = [...(rotation as [number, number, number])];
          for (const [frame, value] of [
            [1, 0],
            [24, 1],
            [40, -1],
          ] as const)
            setKnot(draft, { ...x, frame }, value);
        }).shot;
        const riding = edit(keyed, 'Ride', (draft) => setParent(draft, 'boom', 'mast')).shot;
        for (const frame of [1, 24, 40]) {
          near(poseAt(riding, thing(riding, 'boom'), frame).center, poseAt(keyed, thing(keyed, 'boom'), frame).center);
          near(
            poseAt(riding, thing(riding, 'boom'), frame).rotation,
            poseAt(keyed, thing(keyed, 'boom'), frame).rotation,
          );
        }
        const moved = edit(riding, 'Move', (draft) => void (thing(draft, 'mast').position[1] += 2)).shot;
        const [before, after] = [riding, moved].map((of) => poseAt(of, thing(of, 'boom'), 24).center);
        near(after!, [before![0], before![1] + 2, before![2]]);
        const free = edit(moved, 'Free', (draft) => setParent(draft, 'boom', null)).shot;
        near(poseAt(free, thing(free, 'boom'), 24).center, after!);
      }),
      { numRuns: 20 },
    );
  });

  it('refuses loops, with who rides on whom', () => {
    const riding = edit(shot(), 'Ride', (draft) => {
      setParent(draft, 'boom', 'mast');
      setParent(draft, 'block', 'boom');
    }).shot;
    expect(() => edit(riding, 'Ride', (draft) => setParent(draft, 'mast', 'block'))).toThrow(
      /“Block” rides on “Mast” already/,
    );
    expect(() => edit(riding, 'Ride', (draft) => setParent(draft, 'mast', 'mast'))).toThrow(/cannot ride itself/);
    const bad = structuredClone(riding) as typeof riding;
    thing(bad, 'mast').parent = 'block';
    expect(() => readShot(bad)).toThrow(
      /things\[0\]\.parent: “Mast” would ride itself \(Mast, on Block, on Boom, on Mast\)/,
    );
    thing(bad, 'mast').parent = 'nobody';
    expect(() => readShot(bad)).toThrow(/rides a thing “nobody” that is not in the shot/);
  });

  it('a deleted carrier leaves its riders where they are', () => {
    const riding = edit(shot(), 'Ride', (draft) => {
      setParent(draft, 'boom', 'mast');
      setParent(draft, 'block', 'boom');
    }).shot;
    const left = edit(riding, 'Delete', (draft) => removeThing(draft, 'boom')).shot;
    expect(thing(left, 'block').parent).toBe('mast');
    near(poseAt(left, thing(left, 'block'), 1).center, [0, 3, 1]);
  });
});

describe('size', () => {
  const shapes: Shape[] = [
    { kind: 'sheet', width: 1, height: 2, spacing: 0.1 },
    { kind: 'box', width: 1, height: 2, depth: 3 },
    { kind: 'ball', radius: 0.5, detail: 2 },
    { kind: 'cylinder', radius: 0.2, height: 1, segments: 32 },
    { kind: 'capsule', radius: 0.2, height: 1, segments: 32 },
    { kind: 'cone', radius: 0.3, topRadius: 0.1, height: 0.7, segments: 32 },
    { kind: 'tube', radius: 0.3, wall: 0.05, height: 0.7, segments: 32 },
    { kind: 'ring', radius: 0.3, tubeRadius: 0.05, segments: 48 },
    { kind: 'knot', radius: 0.3, tubeRadius: 0.05, windings: 3, segments: 160 },
    { kind: 'mesh', asset: 'stone' },
  ];
  it.each(shapes.map((shape) => [shape.kind, shape] as const))('of a %s doubles in its own numbers', (_, shape) => {
    const assets = new Map([['stone', box({ size: [1, 2, 3] })]]);
    const { shape: doubled, mesh } = resizeShape(shape, [2, 2, 2], assets, 'bigger');
    if (mesh) assets.set('bigger', mesh);
    const before = size(bounds(shapeMesh(shape, assets).positions)!);
    shapeSize(doubled, assets)!.forEach((side, axis) => expect(side).toBeCloseTo(before[axis]! * 2, 4));
    expect(SHAPES[shape.kind].schema.safeParse(doubled).success).toBe(true);
  });
});

describe('roles', () => {
  it('keep what both have', () => {
    const start = edit(shot(), 'Key', (draft) => {
      keyNow(draft, 'boom', ['position.x', 'friction'], 1);
      setParent(draft, 'boom', 'mast');
      const boom = thing(draft, 'boom');
      if (boom.role === 'collider') boom.colour = '#123456';
    }).shot;
    const scenery = edit(start, 'Role', (draft) => changeRole(draft, 'boom', 'scenery')).shot;
    expect(thing(scenery, 'boom')).toMatchObject({ role: 'scenery', name: 'Boom', parent: 'mast', colour: '#123456' });
    const cloth = edit(start, 'Role', (draft) => changeRole(draft, 'boom', 'cloth')).shot;
    expect(thing(cloth, 'boom')).toMatchObject({ role: 'cloth', shape: { kind: 'box' }, keys: [] });
  });
});
