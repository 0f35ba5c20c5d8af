import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyPose, composePoses, invertPose } from '../math/pose';
import { boxTree } from '../mesh/boxTree';
import { nearestPlace, placeOn } from '../mesh/nearestPlace';
import { sheet } from '../mesh/shapes/sheet';
import { ball } from '../mesh/shapes/ball';
import { carryMask } from '../shot/carryMask';
import { createCloth, createCollider, createLeash, createMount, createPinSet, createTie } from '../shot/create';
import { edit } from '../shot/edit';
import { removeHold } from '../shot/holds';
import { readMask, writeMask } from '../shot/masks';
import { poseAt } from '../shot/placement';
import type { Cloth, Shot } from '../shot/schema';
import { sidePoints } from '../shot/selectPoints';
import { flatTriangles } from '../solver/constraints/flatTriangles';
import { BakeRun } from './bakeRun';
import type { BakedFrame } from './frame';
import { apart, frames, keyed, mesh, none, point, SHAPE, shot, top } from './heldShots';
import { inputsHash, runInputs } from './inputs';

describe('pin sets', () => {
  it('ride a mount that moves and turns, within 0.01 mm at every frame', () => {
    const pinSets = [createPinSet({ name: 'Top', points: top, rides: 'mount' })];
    let riding = shot({ pinSets }, [createMount({ id: 'mount', name: 'Mount', position: [0.3, 1, 0] })]);
    riding = keyed(riding, 'mount', 'position.y', [
      [1, 1],
      [20, 1.6],
    ]);
    riding = keyed(riding, 'mount', 'rotation.y', [
      [1, 0],
      [20, 1.2],
    ]);
    const mount = riding.things[1]!;
    const baked = frames(riding, 24);
    const back = invertPose(poseAt(riding, mount, 1));
    for (const { frame, positions } of baked) {
      const moved = composePoses(poseAt(riding, mount, frame), back);
      for (const i of top) {
        const wanted = applyPose(moved, point(baked[0]!.positions[0]!, i));
        expect(apart(point(positions[0]!, i), wanted)).toBeLessThan(1e-5);
      }
    }
    // The rest hangs below.
    expect(point(baked[23]!.positions[0]!, mesh.positions.length / 3 - 1)[1]).toBeLessThan(1.4);
  });

  // All of the way was made in the first substep: at thousands of m/s, until there was no room for all that came near each other.
  it('that stand elsewhere than the cloth begins draw it there over a frame, as those that take hold later', () => {
    const pinSets = [createPinSet({ id: 'p', name: 'Top', points: top })];
    const gathered = keyed(shot({ pinSets }), 'c', 'hold:p.gather.x', [[1, 0.6]]);
    const baked = frames(gathered, 4);
    const [a, b] = [top[0]!, top.at(-1)!];
    const widths = baked.map(({ positions }) => apart(point(positions[0]!, a), point(positions[0]!, b)));
    expect(widths[1]! / widths[0]!).toBeCloseTo(0.6, 4);
    expect(widths[2]! / widths[0]!).toBeCloseTo(0.6, 4);
    // Half of what is drawn in comes from either side, in a frame.
    const way = 0.2 * widths[0]! * 24;
    for (const { stats } of baked) expect(stats.fastest).toBeLessThan(2 * way + 1);
    const later = keyed(
      keyed(shot({ pinSets }), 'c', 'hold:p.strength', [
        [1, 0],
        [6, 0],
        [7, 1],
      ]),
      'c',
      'hold:p.move.y',
      [[1, 0.3]],
    );
    for (const { stats } of frames(later, 12)) expect(stats.fastest).toBeLessThan(30);
    const end = frames(later, 10).at(-1)!;
    expect(point(end.positions[0]!, a)[1]).toBeCloseTo(point(baked[0]!.positions[0]!, a)[1] + 0.3, 4);
  });

  it('gather along an axis, keyed, and move and turn about their middle', () => {
    let gathered = shot({ pinSets: [createPinSet({ id: 'p', name: 'Top', points: top })] });
    gathered = keyed(gathered, 'c', 'hold:p.gather.x', [
      [1, 1],
      [13, 0.5],
    ]);
    gathered = keyed(gathered, 'c', 'hold:p.move.z', [
      [1, 0],
      [13, 0.2],
    ]);
    const [first, last] = [frames(gathered, 1)[0]!, frames(gathered, 13).at(-1)!];
    const [a, b] = [top[0]!, top.at(-1)!];
    const width = (of: BakedFrame) => apart(point(of.positions[0]!, a), point(of.positions[0]!, b));
    expect(width(last)).toBeCloseTo(0.5 * width(first), 5);
    expect(point(last.positions[0]!, a)[2]).toBeCloseTo(point(first.positions[0]!, a)[2] + 0.2, 5);
  });

  it('hold less where their mask says so, and gradually', () => {
    const count = mesh.positions.length / 3;
    const values = Uint8Array.from({ length: count }, (_, i) => Math.round((1 - mesh.material![i * 2]! / 0.6) * 255));
    const masks = [{ id: 'm', name: 'Fade', values: writeMask(values) }];
    const pinSets = [createPinSet({ name: 'Top', points: top, mask: 'm' })];
    const last = frames(shot({ pinSets, masks }), 24).at(-1)!.positions[0]!;
    const drops = top.map((i) => 1 - point(last, i)[1]);
    expect(drops[0]).toBeCloseTo(0, 5);
    expect(drops.at(-1)).toBeGreaterThan(0.1);
    for (let i = 1; i < drops.length; i++) expect(drops[i]).toBeGreaterThan(drops[i - 1]! - 0.005);
  });

  it('give the same bits when a run is gone on with', () => {
    let moving = shot({ pinSets: [createPinSet({ id: 'p', name: 'Top', points: top })] });
    moving = keyed(moving, 'c', 'hold:p.strength', [
      [1, 1],
      [6, 1],
      [7, 0.4],
      [12, 1],
    ]);
    const whole = frames(moving, 16).at(-1)!.stats.fingerprint;
    const run = new BakeRun(moving, none);
    for (let i = 0; i < 8; i++) run.next();
    const on = new BakeRun(moving, none, run.checkpoint());
    let last = on.next();
    while (last.frame < 16) last = on.next();
    expect(last.stats.fingerprint).toBe(whole);
  });
});

/** Another sheet that hangs by its upper border, to tie to. */
function pinnedSheet(height: number): Cloth {
  const pinSets = [createPinSet({ name: 'P', points: top })];
  return createCloth({ id: 'u', name: 'Upper', shape: SHAPE, position: [0, height, 0], pinSets });
}

describe('ties', () => {
  it.each([true, false])(
    'keep their place on a moving, turning thing within 0.1 mm; own distance kept: %s',
    (keepsDistance) => {
      const rail = createCollider({
        id: 'rail',
        name: 'Rail',
        shape: { kind: 'box', width: 0.8, height: 0.04, depth: 0.04 },
        position: [0, 1.03, 0],
      });
      const ties = [createTie({ name: 'Rings', points: top, to: 'rail', keepsDistance, standOff: 0.03 })];
      let tied = shot({ ties }, [rail]);
      tied = keyed(tied, 'rail', 'position.x', [
        [1, 0],
        [20, 0.5],
      ]);
      tied = keyed(tied, 'rail', 'rotation.y', [
        [1, 0],
        [20, 0.8],
      ]);
      const box = tied.things[1]!;
      const baked = frames(tied, 24);
      const start = invertPose(poseAt(tied, box, 1));
      for (const { frame, positions } of baked.slice(1)) {
        const moved = composePoses(poseAt(tied, box, frame), start);
        for (const i of top) {
          const from = point(baked[0]!.positions[0]!, i);
          // They start 10 mm under the rail; with a stand-off of 30 mm they are drawn 20 mm farther down.
          const wanted = applyPose(moved, keepsDistance ? from : [from[0], from[1] - 0.02, from[2]]);
          const edge = Math.abs(from[2]) > 0.0201 || Math.abs(from[0]) > 0.4;
          if (!edge) expect(apart(point(positions[0]!, i), wanted)).toBeLessThan(1e-4);
        }
      }
    },
  );

  it('hold cloth by cloth, within 0.1 mm at every frame', () => {
    const upper = pinnedSheet(1.02);
    const all = shot({ ties: [createTie({ name: 'T', points: top, to: 'u' })] }, [upper]);
    for (const { positions } of frames(all, 30)) {
      const [tied, upperPoints] = [positions[0]!, positions[1]!];
      for (const i of top) expect(Math.abs(apart(point(tied, i), point(upperPoints, i)) - 0.02)).toBeLessThan(1e-4);
    }
  });

  it('hang cloth from the free border of another', () => {
    const upper = pinnedSheet(1);
    const all = shot({ position: [0, 0.99, 0.4], ties: [createTie({ name: 'T', points: top, to: 'u' })] }, [upper]);
    const bottom = sidePoints(mesh, 'bottom');
    for (const { positions } of frames(all, 30)) {
      top.forEach((i, n) => {
        const length = apart(point(positions[0]!, i), point(positions[1]!, bottom[n]!));
        expect(Math.abs(length - 0.01)).toBeLessThan(1e-4);
      });
    }
  });

  it('let cloth off by a stand-off that is keyed', () => {
    const upper = pinnedSheet(1.02);
    const tie = createTie({ id: 't', name: 'T', points: top, to: 'u', keepsDistance: false, standOff: 0.02 });
    const let_ = keyed(shot({ ties: [tie] }, [upper]), 'c', 'hold:t.standOff', [
      [1, 0.02],
      [20, 0.2],
    ]);
    const { positions } = frames(let_, 30).at(-1)!;
    for (const i of top) expect(apart(point(positions[0]!, i), point(positions[1]!, i))).toBeCloseTo(0.2, 3);
  });

  it('to what is not there, or has no surface, are refused in words', () => {
    const tie = (to: string) => [createTie({ name: 'T', points: top, to })];
    expect(() => new BakeRun(shot({ ties: tie('gone') }), none)).toThrow(/no longer in the shot/);
    const mount = createMount({ id: 'mount', name: 'Mount' });
    expect(() => new BakeRun(shot({ ties: tie('mount') }, [mount]), none)).toThrow(/Mount, which has no surface/);
  });
});

it('a leash keeps cloth near where it starts, carried along by what it rides', () => {
  const all = Array.from({ length: mesh.positions.length / 3 }, (_, i) => i);
  let leashed = shot({ parent: 'cart', leashes: [createLeash({ name: 'L', points: all, distance: 0.03 })] }, [
    createMount({ id: 'cart', name: 'Cart' }),
  ]);
  leashed = keyed(leashed, 'cart', 'position.x', [
    [1, 0],
    [20, 0.4],
  ]);
  const baked = frames(leashed, 20);
  all.forEach((i) => {
    const from = point(baked[0]!.positions[0]!, i);
    expect(apart(point(baked[19]!.positions[0]!, i), [from[0] + 0.4, from[1], from[2]])).toBeLessThan(0.0305);
  });
});

it('a leash can keep cloth on the outer side of where it starts', () => {
  const all = Array.from({ length: mesh.positions.length / 3 }, (_, i) => i);
  const leash = createLeash({ name: 'L', points: all, distance: 0.05 });
  const heights = (given: object, turned: number) => {
    const leashed = shot({ leashes: [{ ...leash, ...given }], rotation: [turned, 0, 0] });
    const last = frames(leashed, 12).at(-1)!.positions[0]!;
    return all.map((i) => point(last, i)[1]);
  };
  // A sheet lies with its outer side up: without the leash's side it falls to the end of the leash.
  expect(Math.max(...heights({}, 0))).toBeLessThan(0.96);
  for (const height of heights({ neverBehind: true }, 0)) expect(height).toBeGreaterThan(1 - 1e-5);
  // Turned over, its outer side is below, where it may go.
  expect(Math.max(...heights({ neverBehind: true }, Math.PI))).toBeLessThan(0.96);
});

describe('holds in the document', () => {
  it('make a bake stale when they or what carries them change, and not when they are renamed', () => {
    const mount = createMount({ id: 'mount', name: 'Mount' });
    const start = shot({ pinSets: [createPinSet({ id: 'p', name: 'Top', points: top, rides: 'mount' })] }, [mount]);
    const hash = (of: Shot) => inputsHash(runInputs(of, none));
    const after = (recipe: (cloth: Cloth, draft: Shot) => void) =>
      hash(edit(start, 'x', (draft) => recipe(draft.things[0] as Cloth, draft)).shot);
    expect(after((cloth) => (cloth.pinSets[0]!.name = 'Other'))).toBe(hash(start));
    expect(after((cloth) => (cloth.pinSets[0]!.strength = 0.5))).not.toBe(hash(start));
    expect(after((_, draft) => (draft.things[1]!.position = [1, 0, 0]))).not.toBe(hash(start));
  });

  it('lose their keys with them', () => {
    const start = keyed(
      shot({ pinSets: [createPinSet({ id: 'p', name: 'Top', points: top })] }),
      'c',
      'hold:p.strength',
      [[1, 1]],
    );
    expect(edit(start, 'x', (draft) => removeHold(draft, 'c', 'p')).shot.things[0]).toMatchObject({
      keys: [],
      pinSets: [],
    });
  });

  it('masks come back from their text, and from a finer mesh of the same fabric', () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 0, maxLength: 20_000 }), (values) => {
        expect(readMask({ values: writeMask(values) })).toEqual(values);
      }),
      { numRuns: 20 },
    );
    const fine = sheet({ ...SHAPE, spacing: 0.02 });
    const values = Uint8Array.from({ length: mesh.positions.length / 3 }, (_, i) => (i * 7) % 256);
    expect(carryMask(fine, mesh, carryMask(mesh, fine, values))).toEqual(values);
  });
});

describe('masks on numbers of the fabric', () => {
  const half = (value: (u: number) => number) =>
    writeMask(
      Uint8Array.from({ length: mesh.positions.length / 3 }, (_, i) =>
        Math.round(value(mesh.material![i * 2]! / 0.6) * 255),
      ),
    );
  const clamped = (given: object) => {
    const pinSets = [
      createPinSet({ name: 'Top', points: [...top, ...sidePoints(mesh, 'top').map((i) => i + top.length)] }),
    ];
    return shot({ pinSets, card: 'canvas', ...given });
  };

  it('scale bending place by place: where there is none the cloth hangs down, where there is all it stands out', () => {
    const masks = [{ id: 'm', name: 'Right', values: half((u) => (u > 0.5 ? 0 : 1)) }];
    const fabric = { weight: 0.1, bendWarp: 1e-2, bendWeft: 1e-2 };
    const masked = clamped({ masks, fabric, fabricMasks: { bendWarp: 'm', bendWeft: 'm' } });
    const last = frames({ ...masked, run: { ...masked.run, substeps: 120 } }, 24).at(-1)!.positions[0]!;
    const bottom = sidePoints(mesh, 'bottom');
    const [left, right] = [point(last, bottom[0]!)[1], point(last, bottom.at(-1)!)[1]];
    expect(left - right).toBeGreaterThan(0.05);
  });

  it('scale weight, and how far rest size is from 100 %', () => {
    const scales = {
      weight: new Float32Array(mesh.triangles.length / 3).fill(0.5),
      restWarp: new Float32Array(mesh.triangles.length / 3).fill(0.5),
    };
    const fabric = { ...(shot({}).things[0] as Cloth).fabric, restWarp: 1.1 };
    const [full, scaled] = [flatTriangles(mesh, fabric), flatTriangles(mesh, fabric, scales)];
    expect(scaled.pointMasses[0]! / full.pointMasses[0]!).toBeCloseTo(0.5, 6);
    expect(scaled.areas[0]! / full.areas[0]!).toBeCloseTo(1.05 / 1.1, 6);
  });

  it('make a bake stale, and an even mask of 100 % changes nothing', () => {
    const none100 = {
      masks: [{ id: 'm', name: 'Full', values: half(() => 1) }],
      fabricMasks: { stretchWarp: 'm', bendWarp: 'm' } as const,
    };
    const bits = (given: object) => frames(clamped(given), 6).at(-1)!.stats.fingerprint;
    expect(bits(none100)).toBe(bits({}));
    const hash = (given: object) => inputsHash(runInputs(clamped(given), none));
    expect(hash(none100)).not.toBe(hash({}));
    expect(hash({ ...none100, masks: [{ ...none100.masks[0]!, name: 'Other' }] })).toBe(hash(none100));
  });
});

it('the nearest place on a mesh is that of a search through all faces', () => {
  const stone = ball({ radius: 0.5, detail: 2 });
  const tree = boxTree(stone);
  const coordinate = fc.double({ min: -1, max: 1, noNaN: true });
  fc.assert(
    fc.property(fc.tuple(coordinate, coordinate, coordinate), (place) => {
      const found = nearestPlace(stone, tree, place)!;
      expect(apart(placeOn(stone.positions, stone.triangles, found), place)).toBeCloseTo(found.distance, 6);
      for (let face = 0; face < stone.triangles.length / 3; face++) {
        for (const weights of [
          [1, 0, 0],
          [0.5, 0.5, 0],
          [1 / 3, 1 / 3, 1 / 3],
        ] as const) {
          const other = placeOn(stone.positions, stone.triangles, { face, weights: [...weights] });
          expect(apart(other, place)).toBeGreaterThan(found.distance - 1e-6);
        }
      }
    }),
    { numRuns: 60 },
  );
});
