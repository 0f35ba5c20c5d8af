import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { findCard } from '../fabric/swatchBook';
import { closedSeams } from '../mesh/closeSeams';
import type { Mesh } from '../mesh/mesh';
import { mirroredPiece, sew } from '../pattern/editPattern';
import { makePiece, newNode } from '../pattern/makePiece';
import { patternMesh } from '../pattern/patternMesh';
import type { Piece } from '../pattern/schema';
import { createAir, createCloth, createMount, createPinSet, createShot } from '../shot/create';
import type { Cloth, Shot } from '../shot/schema';
import { shapeMesh, type PatternShape } from '../shot/shapes';
import { bendTest } from '../swatch/bendTest';
import { drapeTest } from '../swatch/drapeTest';
import { BakeRun } from './bakeRun';
import { compile } from './compile';
import { PacedSolver } from './pacedSolver';
import { SettleRun } from './settleRun';
import { frames, rectangle, side } from './sewnShots';

const NONE = new Map<string, Mesh>();

/** Front and back of a bag, 12 cm apart, open at its top, hung up by the upper corners of its front. */
function bagShot(more: Partial<PatternShape> = {}): { shot: Shot; sewn: Uint32Array } {
  const shape: PatternShape = {
    ...{ kind: 'pattern', spacing: 0.03, weave: 'all directions', closing: 12 },
    pieces: [
      rectangle('f', 0.3, 0.3, { position: [0, 1, 0.06] }),
      rectangle('b', 0.3, 0.3, { position: [0, 1, -0.06], rotation: [0, Math.PI, 0] }),
    ],
    seams: [
      { id: 's0', a: side('f', 0), b: side('b', 0), turned: false },
      { id: 's1', a: side('f', 1), b: side('b', 3), turned: false },
      { id: 's2', a: side('f', 3), b: side('b', 1), turned: false },
    ],
    ...more,
  };
  const mesh = patternMesh(shape);
  const corners = [0, 1].map((right) =>
    Array.from({ length: mesh.parts![0]!.count }, (_, i) => i).find(
      (i) => mesh.positions[i * 3 + 1]! > 1.1499 && mesh.positions[i * 3]! * (right ? 1 : -1) > 0.1499,
    )!,
  );
  const cloth = createCloth({ name: 'Bag', shape, pinSets: [createPinSet({ name: 'Corners', points: corners })] });
  return { shot: createShot({ name: 'x', things: [cloth], lastFrame: 40 }), sewn: mesh.sewn! };
}

/** How far in m sewn points are from each other at most. */
function widest(positions: Float32Array, sewn: Uint32Array): number {
  let most = 0;
  sewn.forEach((first, point) => {
    const [x, y, z] = [0, 1, 2].map((axis) => positions[point * 3 + axis]! - positions[first * 3 + axis]!) as [
      ...[number, number, number],
    ];
    most = Math.max(most, Math.hypot(x, y, z));
  });
  return most;
}

describe('a bag of two pieces', () => {
  it('is drawn together, closed, and stays closed; nothing crosses, nothing is stretched', () => {
    const { shot, sewn } = bagShot();
    const baked = frames(new BakeRun(shot, NONE), 30);
    const gaps = baked.map(({ positions }) => widest(positions[0]!, sewn));
    expect(gaps[0]).toBeCloseTo(0.12, 6);
    gaps.slice(1, 13).forEach((gap, i) => expect(gap).toBeLessThan(gaps[i]!));
    for (const gap of gaps.slice(13)) expect(gap).toBe(0);
    for (const { stats } of baked) expect(stats.crossings).toBe(0);
    for (const { stats } of baked.slice(16)) expect(stats.falseStretch).toBeLessThan(0.03);
  });

  // Each of these caught its own folds in its seams, and then crossed itself in 3 to 215 places.
  it.each([
    [0.025, 'all directions'],
    [0.027, 'along the grain'],
    [0.019, 'along the grain'],
    [0.015, 'along the grain'],
  ] as const)('closes without a crossing at %f m, %s', { timeout: 60_000 }, (spacing, weave) => {
    const { shot, sewn } = bagShot({ spacing, weave });
    const baked = frames(new BakeRun(shot, NONE), 18);
    for (const { stats } of baked) expect(stats.crossings).toBe(0);
    // It was together before its points became one.
    expect(widest(baked[12]!.positions[0]!, sewn)).toBeLessThan(0.001);
  });

  it('keeps its seams within 0.05 mm while what holds it moves at 3 m/s', () => {
    const { shot, sewn } = bagShot();
    const mount = createMount({ id: 'm', name: 'Hook' });
    mount.keys = [
      {
        number: 'position.x',
        knots: [
          { frame: 15, value: 0, ease: 'linear' },
          { frame: 23, value: 1, ease: 'linear' },
        ],
      },
    ];
    const cloth = shot.things[0] as Cloth;
    cloth.pinSets[0]!.rides = 'm';
    const baked = frames(new BakeRun({ ...shot, things: [cloth, mount] }, NONE), 24);
    for (const { positions } of baked.slice(13)) expect(widest(positions[0]!, sewn)).toBeLessThan(5e-5);
    expect(baked.at(-1)!.positions[0]![0]! - baked[14]!.positions[0]![0]!).toBeGreaterThan(0.8);
  });

  it.each([5, 11, 12, 13, 20])('goes on from frame %i bit for bit', (at) => {
    const { shot } = bagShot();
    const whole = new BakeRun(shot, NONE);
    const before = frames(whole, at);
    const checkpoint = whole.checkpoint();
    const after = frames(whole, 4);
    const again = frames(new BakeRun(shot, NONE, checkpoint), 4);
    expect(before).toHaveLength(at);
    expect(again.map(({ stats }) => stats.fingerprint)).toEqual(after.map(({ stats }) => stats.fingerprint));
  });

  it('goes on bit for bit where it was stopped in the middle of the frame after which its seams are closed', () => {
    const { shot } = bagShot();
    const whole = new BakeRun(shot, NONE);
    frames(whole, 13);
    const wanted = frames(whole, 3).map(({ stats }) => stats.fingerprint);
    const stopped = new BakeRun(shot, NONE);
    frames(stopped, 13);
    expect(stopped.tryNext((share) => share < 0.5)).toBeNull();
    const again = new BakeRun(shot, NONE, stopped.checkpoint());
    expect(frames(again, 3).map(({ stats }) => stats.fingerprint)).toEqual(wanted);
    expect(frames(stopped, 3).map(({ stats }) => stats.fingerprint)).toEqual(wanted);
  });

  it('goes back over the closing bit for bit', () => {
    const { shot } = bagShot();
    const model = compile(shot, NONE);
    const solver = new PacedSolver(shot, NONE, model);
    for (let i = 0; i < 8; i++) solver.advance();
    const open = solver.state();
    for (let i = 0; i < 8; i++) solver.advance();
    const closed = solver.solver.positions(0);
    solver.restore(open);
    for (let i = 0; i < 8; i++) solver.advance();
    expect(solver.solver.positions(0)).toEqual(closed);
  });

  it('is at its beginning, with its seams open, when a state of other cloths is refused', () => {
    const { shot } = bagShot();
    const solver = new PacedSolver(shot, NONE, compile(shot, NONE));
    const other = new PacedSolver(
      bagShot({ spacing: 0.05 }).shot,
      NONE,
      compile(bagShot({ spacing: 0.05 }).shot, NONE),
    );
    for (let i = 0; i < 15; i++) other.advance();
    expect(() => solver.restore(other.state())).toThrow(RangeError);
    expect(widest(solver.solver.positions(0), bagShot().sewn)).toBeCloseTo(0.12, 6);
  });

  it('that was settled is closed from the start', () => {
    const { shot, sewn } = bagShot();
    const settle = new SettleRun(shot, NONE);
    let last = settle.next();
    for (let i = 0; i < 20; i++) last = settle.next();
    expect(widest(last.positions[0]!, sewn)).toBe(0);
    const assets = new Map([['pose', { positions: last.positions[0]!, triangles: new Uint32Array() }]]);
    const cloth = { ...(shot.things[0] as Cloth), start: 'pose' };
    const [first, second] = frames(new BakeRun({ ...shot, things: [cloth] }, assets), 2);
    expect(widest(first!.positions[0]!, sewn)).toBe(0);
    expect(widest(second!.positions[0]!, sewn)).toBe(0);
  });

  // Its seams were drawn together so slowly that it counted as at rest, open and without weight.
  it('is not settled before its seams are closed and it has fallen', () => {
    const near = (z: number) => ({ position: [0, 1, z] as [number, number, number] });
    const pieces = [
      rectangle('f', 0.3, 0.3, near(0.003)),
      rectangle('b', 0.3, 0.3, { ...near(-0.003), rotation: [0, Math.PI, 0] }),
    ];
    const { shot, sewn } = bagShot({ pieces, closing: 24 });
    const settle = new SettleRun({ ...shot, things: [{ ...(shot.things[0] as Cloth), pinSets: [] }] }, NONE);
    for (let step = 1; step <= 34; step++) expect(settle.next().atRest, `step ${step}`).toBe(false);
    const { positions } = settle.next();
    expect(widest(positions[0]!, sewn)).toBe(0);
    expect(Math.max(...positions[0]!.filter((_, i) => i % 3 === 1))).toBeLessThan(1);
  });

  it('takes changed numbers over before and after its seams are closed', () => {
    const { shot } = bagShot();
    const heavier = JSON.parse(JSON.stringify(shot)) as Shot;
    (heavier.things[0] as Cloth).fabric.bendWarp *= 3;
    // The same shape is the same mesh, as in documents that come from an edit.
    (heavier.things[0] as Cloth).shape = (shot.things[0] as Cloth).shape;
    Object.freeze((shot.things[0] as Cloth).shape);
    const frozen = new PacedSolver(shot, NONE, compile(shot, NONE), { live: true });
    for (let i = 0; i < 4; i++) frozen.advance();
    expect(frozen.take(heavier, NONE, compile(heavier, NONE))).toBe(true);
    for (let i = 0; i < 12; i++) frozen.advance();
    expect(frozen.take(shot, NONE, compile(shot, NONE))).toBe(true);
  });
});

describe('a bag that nothing holds', () => {
  /** How far in m its middle has come down at each frame, in wind. */
  function fallen(more: Partial<PatternShape>, count: number): number[] {
    const { shot } = bagShot({ closing: 8, ...more });
    const cloth = shot.things[0] as Cloth;
    const wind = createAir({ name: 'W', air: { kind: 'wind', speed: 6 } });
    const loose = { ...shot, things: [{ ...cloth, pinSets: [] }, wind] };
    const middle = (places: Float32Array) => {
      const sum = [0, 0, 0];
      places.forEach((value, i) => (sum[i % 3]! += value / (places.length / 3)));
      return sum;
    };
    const middles = frames(new BakeRun(loose, NONE), count).map(({ positions }) => middle(positions[0]!));
    return middles.map((place) => Math.hypot(...place.map((value, axis) => value - middles[0]![axis]!)));
  }

  it('stays where it was placed until its seams are closed, and falls then', () => {
    const far = fallen({}, 14);
    for (const distance of far.slice(0, 9)) expect(distance).toBeLessThan(0.005);
    expect(far[13]!).toBeGreaterThan(0.1);
  });

  it.each([
    ['swells by its pressure', { pressure: 300 }, []],
    ['is drawn', {}, [createAir({ name: 'P', position: [0, 1, 0.4], air: { kind: 'attractor', pull: 30 } })]],
  ] as const)('%s only once its seams are closed', (_, fabric, things) => {
    const bagged = (
      by: Partial<Cloth['fabric']>,
      besides: readonly Shot['things'][number][],
      more: Partial<PatternShape> = {},
    ) => {
      const { shot } = bagShot({ closing: 8, ...more });
      const cloth = shot.things[0] as Cloth;
      const loose = { ...cloth, pinSets: [], fabric: { ...cloth.fabric, ...by } };
      const run = { ...shot.run, substeps: 40 };
      const baked = frames(new BakeRun({ ...shot, run, things: [loose, ...besides] }, NONE), 11);
      return baked.map(({ stats }) => stats.fingerprint);
    };
    const [still, moved, falling] = [bagged({}, []), bagged(fabric, things), bagged(fabric, things, { falls: true })];
    expect(moved.slice(0, 9)).toEqual(still.slice(0, 9));
    expect(moved[10]).not.toBe(still[10]);
    expect(falling[2]).not.toBe(bagged({}, [], { falls: true })[2]);
  });

  // The pressure pushed both of them the same way: the cushion rose at 10 m/s.
  it.each([
    ['and all of it is sewn', [0, 1, 2, 3]],
    ['but for a mouth', [0, 1, 3]],
  ])('is filled by its pressure where both pieces were laid the same way up, %s', (_, sides) => {
    const lying = (id: string, height: number) =>
      rectangle(id, 0.3, 0.3, { position: [0, height, 0], rotation: [-Math.PI / 2, 0, 0] });
    const shape: PatternShape = {
      ...{ kind: 'pattern', spacing: 0.03, weave: 'all directions', closing: 8 },
      pieces: [lying('f', 0.98), lying('b', 1.02)],
      seams: sides.map((i) => ({ id: `s${i}`, a: side('f', i), b: side('b', i), turned: true })),
    };
    const cloth = createCloth({ name: 'Cushion', card: 'cotton-poplin', shape, fabric: { pressure: 60 } });
    const [last] = frames(new BakeRun(createShot({ name: 'x', things: [cloth] }), NONE), 14).slice(-1);
    const heights = last!.positions[0]!.filter((_, i) => i % 3 === 1);
    const mean = heights.reduce((sum, height) => sum + height, 0) / heights.length;
    expect(mean).toBeGreaterThan(0.8);
    expect(mean).toBeLessThan(1.001);
    expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(0.08);
    expect(last!.stats.crossings).toBe(0);
  });

  it('falls from the start where it is to', () => {
    expect(fallen({ falls: true }, 9)[8]!).toBeGreaterThan(0.3);
  });
});

describe('a closed seam', () => {
  const linen = findCard('linen-mid')!.fabric;
  const box = (id: string, u0: number, u1: number, v0: number, v1: number) =>
    makePiece({
      ...{ id, name: id, grain: 0 },
      outline: (
        [
          [u0, v0],
          [u1, v0],
          [u1, v1],
          [u0, v1],
        ] as [number, number][]
      ).map((at, i) => ({ ...newNode(at), id: `${id}${i}` })),
    });
  const flat = (mesh: Mesh, left = 0): Mesh => ({
    ...mesh,
    positions: mesh.positions.map((value, i) =>
      i % 3 === 0 ? value + left : i % 3 === 1 ? 0 : -mesh.positions[i - 1]!,
    ),
  });
  /** A strip with its clamp sewn on; cut along its middle too, and sewn again. */
  const strip = (split: boolean) => (length: number, width: number, spacing: number) => {
    const shape: PatternShape = {
      ...{ kind: 'pattern', spacing, weave: 'all directions', closing: 24, seams: [] },
      pieces: split
        ? [
            box('a', -spacing, 0, 0, width / 2),
            box('b', -spacing, 0, width / 2, width),
            box('c', 0, length, 0, width / 2),
            box('d', 0, length, width / 2, width),
          ]
        : [box('a', -spacing, 0, 0, width), box('c', 0, length, 0, width)],
    };
    sew(shape, side('a', 1), side('c', 3));
    if (split) {
      sew(shape, side('b', 1), side('d', 3));
      sew(shape, side('a', 2), side('b', 0));
      sew(shape, side('c', 2), side('d', 0));
    }
    return flat(closedSeams(patternMesh(shape))!.mesh, -(length - spacing) / 2);
  };

  it('bends as cloth without one, within 5 %', { timeout: 60_000 }, () => {
    const width = 1.2 * bendTest(linen, { direction: 'warp' }).length;
    const [whole, split] = [false, true].map(
      (cut) => bendTest(linen, { direction: 'warp', width, cut: strip(cut) }).rigidity,
    ) as [number, number];
    expect(Math.abs(split / whole - 1)).toBeLessThan(0.05);
  });

  it('lets a disc of four quarters drape as one that is cut whole, within 3 %', { timeout: 120_000 }, () => {
    const [r, h] = [0.15, 0.15 * 0.5522847498];
    const spacing = 0.01;
    const quarters = [0, 1, 2, 3].map((quarter) => {
      const turned = ([u, v]: [number, number]): [number, number] => {
        let at: [number, number] = [u, v];
        for (let i = 0; i < quarter; i++) at = [-at[1], at[0]];
        return at;
      };
      const nodes = [
        newNode([0, 0]),
        newNode(turned([r, 0]), null, turned([0, h])),
        newNode(turned([0, r]), turned([h, 0]), null),
      ];
      return makePiece({
        ...{ id: `q${quarter}`, name: 'Quarter', grain: 0 },
        outline: nodes.map((node, i) => ({ ...node, id: `q${quarter}${i}` })),
      });
    });
    const shape: PatternShape = {
      kind: 'pattern',
      spacing,
      weave: 'all directions',
      closing: 24,
      pieces: quarters,
      seams: [],
    };
    for (let i = 0; i < 4; i++) sew(shape, side(`q${i}`, 2, 3), side(`q${(i + 1) % 4}`, 0, 3));
    const disc = makePiece({
      ...{ name: 'Disc', grain: 0 },
      outline: [
        newNode([r, 0], [0, -h], [0, h]),
        newNode([0, r], [h, 0], [-h, 0]),
        newNode([-r, 0], [0, h], [0, -h]),
        newNode([0, -r], [-h, 0], [h, 0]),
      ],
    });
    const whole = drapeTest(linen, flat(patternMesh({ ...shape, pieces: [disc], seams: [] })));
    const sewn = drapeTest(linen, flat(closedSeams(patternMesh(shape))!.mesh));
    expect(Math.abs(sewn.coefficient / whole.coefficient - 1)).toBeLessThan(0.03);
  });
});

it('closes random pieces and nothing crosses', { timeout: 300_000 }, () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0.55, max: 1, noNaN: true }), { minLength: 4, maxLength: 8 }),
      fc.integer({ min: 1, max: 1 << 8 }),
      fc.constantFrom('all directions', 'along the grain'),
      (radii, open, weave) => {
        const outline = radii.map((r, i) => {
          const angle = (2 * Math.PI * i) / radii.length;
          return { ...newNode([0.25 * r * Math.cos(angle), 0.25 * r * Math.sin(angle)]), id: `f${i}` };
        });
        const front = makePiece({ id: 'f', name: 'Front', outline, position: [0, 1, 0.04] });
        const mirrored = mirroredPiece(front, 'Back');
        const back: Piece = { ...mirrored, position: [0, 1, -0.04], rotation: [0, Math.PI, 0] };
        const shape: PatternShape = {
          ...{ kind: 'pattern', spacing: 0.035, closing: 10, pieces: [front, back], seams: [] },
          weave: weave as PatternShape['weave'],
        };
        const n = radii.length;
        for (let i = 0; i < n; i++) {
          // All but some sides.
          if (i < n - 1 && (open >> i) & 1) continue;
          const own = { piece: 'f', from: `f${i}`, to: `f${(i + 1) % n}` };
          // Seen in the mirror the border runs the other way.
          const at = back.outline.findIndex(
            ({ at: place }) =>
              Math.hypot(place[0] + front.outline[(i + 1) % n]!.at[0], place[1] - front.outline[(i + 1) % n]!.at[1]) <
              1e-9,
          );
          sew(shape, own, { piece: back.id, from: back.outline[at]!.id, to: back.outline[(at + 1) % n]!.id });
        }
        const cloth = createCloth({ name: 'Bag', shape });
        const { sewn } = shapeMesh(cloth.shape, NONE);
        const baked = frames(new BakeRun(createShot({ name: 'x', things: [cloth] }), NONE), 22);
        for (const { positions, stats } of baked.slice(11)) {
          expect(widest(positions[0]!, sewn!)).toBe(0);
          expect(stats.crossings).toBe(0);
        }
      },
    ),
    { numRuns: Number(process.env['LUMBRA_SEWN'] ?? 15), seed: 14 },
  );
});
