import { describe, expect, it } from 'vitest';
import type { Mesh } from '../mesh/mesh';
import { patternMesh } from '../pattern/patternMesh';
import { createCloth, createCollider, createPinSet, createShot, createTie } from '../shot/create';
import type { Cloth, Shot } from '../shot/schema';
import { type PatternShape } from '../shot/shapes';
import { autoTies, pointsAlong, sewsAlong, type Surfaced } from './autoTies';
import { BakeRun } from './bakeRun';
import type { BakedFrame } from './frame';
import { runInputs } from './inputs';
import { frames, rectangle, side } from './sewnShots';

const NONE = new Map<string, Mesh>();

describe('a border that is sewn to a thing', () => {
  /** A panel whose upper border hangs 4 cm below a rail. */
  function panelShot(more: Partial<Parameters<typeof createTie>[0]> = {}) {
    const shape: PatternShape = {
      ...{ kind: 'pattern', spacing: 0.05, weave: 'along the grain', seams: [], closing: 24 },
      pieces: [rectangle('p', 0.3, 0.2, { position: [0, 0.85, 0] })],
    };
    const rail = createCollider({
      ...{ id: 'rail', name: 'Rail', shape: { kind: 'box', width: 2, height: 0.02, depth: 0.02 }, position: [0, 1, 0] },
      keys: [
        {
          number: 'position.x',
          knots: [
            { frame: 10, value: 0, ease: 'linear' },
            { frame: 18, value: 1, ease: 'linear' },
          ],
        },
      ],
    });
    const points = pointsAlong(shape, side('p', 2));
    const tie = createTie({
      name: 'Seam',
      to: 'rail',
      points,
      keepsDistance: false,
      standOff: 0.004,
      drawnIn: 6,
      ...more,
    });
    const cloth = createCloth({ id: 'c', name: 'Panel', shape, ties: [tie] });
    return { shot: createShot({ name: 'x', things: [cloth, rail], lastFrame: 30 }), cloth, points };
  }
  const below = (baked: BakedFrame, points: readonly number[]) =>
    points.map((point) => 0.99 - baked.positions[0]![point * 3 + 1]!);

  it('is drawn to it over its frames, and stays there to 0.05 mm while it moves at 3 m/s', () => {
    const { shot, points } = panelShot();
    const baked = frames(new BakeRun(shot, NONE), 20);
    const farthest = baked.map((frame) => Math.max(...below(frame, points)));
    expect(farthest[0]).toBeCloseTo(0.04, 5);
    farthest.slice(1, 7).forEach((distance, i) => expect(distance).toBeLessThan(farthest[i]!));
    for (const frame of baked.slice(6)) {
      for (const distance of below(frame, points)) expect(Math.abs(distance - 0.004)).toBeLessThan(5e-5);
    }
    const x = (frame: BakedFrame) => frame.positions[0]![points[0]! * 3]!;
    expect(x(baked[17]!) - x(baked[9]!)).toBeCloseTo(1, 3);
  });

  it('is found within reach of the thing, and not when it is tied already or out of reach', () => {
    const { shot, cloth } = panelShot();
    const cut = cloth as Cloth & { shape: PatternShape };
    const free = { ...cut, ties: [] };
    expect(autoTies(shot, free, NONE, 0.05, 1)).toMatchObject([{ to: 'rail', stretch: side('p', 2) }]);
    expect(autoTies(shot, free, NONE, 0.05, 1)[0]!.apart).toBeCloseTo(0.04, 5);
    expect(autoTies(shot, free, NONE, 0.03, 1)).toEqual([]);
    expect(autoTies(shot, cut, NONE, 0.05, 1)).toEqual([]);
  });

  it('is sewn evenly along the border of an open one, which is longer, and stays there while it moves at 3 m/s', () => {
    const { shot, points } = panelShot();
    // A strip in the plane of the panel, divided unevenly, whose lower border is 36 cm long.
    const xs = [-0.18, -0.03, 0.02, 0.18];
    const strip: Mesh = {
      positions: Float32Array.from(xs.flatMap((x) => [x, -0.01, 0, x, 0.05, 0])),
      triangles: Uint32Array.from(
        [0, 1, 2].flatMap((i) => [i * 2, i * 2 + 2, i * 2 + 1, i * 2 + 1, i * 2 + 2, i * 2 + 3]),
      ),
    };
    const assets = new Map([['strip', strip]]);
    const rail = { ...shot.things[1]!, shape: { kind: 'mesh', asset: 'strip' }, side: 'both' } as Surfaced;
    const panel = shot.things[0] as Cloth;
    const tied = (along: 'surface' | 'border'): Shot => ({
      ...shot,
      things: [{ ...panel, ties: [{ ...panel.ties[0]!, along }] }, rail] as Shot['things'],
    });
    const baked = frames(new BakeRun(tied('border'), assets), 20);
    for (const [n, frame] of baked.entries()) {
      if (n < 6) continue;
      const places = points.map((point) => [0, 1, 2].map((axis) => frame.positions[0]![point * 3 + axis]!));
      const middle = places.reduce((sum, place) => sum + place[0]! / places.length, 0);
      const width = 0.3 / (points.length - 1);
      places
        .map((place) => place[0]! - middle)
        .sort((p, q) => p - q)
        .forEach((x, i) => expect(x).toBeCloseTo(-0.15 + i * width, 4));
      for (const [, y, z] of places) expect(Math.hypot(y! - 0.99, z!) - 0.004).toBeLessThan(5e-5);
    }
    expect(baked.at(-1)!.stats.maxStretch).toBeLessThan(0.03);
    const free = { ...(panel as Cloth & { shape: PatternShape }), ties: [] };
    expect(autoTies(tied('border'), free, assets, 0.05, 1)).toMatchObject([{ to: 'rail', along: 'border' }]);
    // As it hangs below the border of the strip; in front of its middle it is meant for the surface.
    const cut = free as Cloth & { shape: PatternShape };
    expect(sewsAlong(tied('border'), cut, assets, side('p', 2), rail)).toBe('border');
    const raised = { ...cut, position: [0, 0.06, 0.02] as [number, number, number] };
    expect(sewsAlong(tied('border'), raised, assets, side('p', 2), rail)).toBe('surface');
    expect(sewsAlong(tied('border'), cut, NONE, side('p', 2), rail)).toBe('surface');
    const inputs = (along: 'surface' | 'border') => Object.keys(runInputs(tied(along), assets));
    expect(inputs('surface').some((path) => path.endsWith('along'))).toBe(false);
    expect(inputs('border').some((path) => path.endsWith('along'))).toBe(true);
  });

  it('says that a thing has no border to be sewn to, and what to do', () => {
    const { shot } = panelShot({ along: 'border' });
    expect(() => new BakeRun(shot, NONE)).toThrow(
      '“Panel” is tied to the border of Rail, which has none. Choose its surface at Hold instead, in “Seam”.',
    );
  });

  it('makes no take of before stale, where nothing is drawn in', () => {
    const inputs = (drawnIn: number) => Object.keys(runInputs(panelShot({ drawnIn }).shot, NONE));
    expect(inputs(0).filter((path) => path.endsWith('drawnIn'))).toEqual([]);
    expect(inputs(6).filter((path) => path.endsWith('drawnIn'))).toHaveLength(1);
  });
});

describe('a border that is sewn to another cloth', () => {
  it('is drawn to it over its frames, and stays there', () => {
    const shape: PatternShape = {
      ...{ kind: 'pattern', spacing: 0.03, weave: 'all directions', closing: 12, seams: [] },
      pieces: [rectangle('f', 0.3, 0.3, { position: [0, 0.85, 0.1] })],
    };
    const points = pointsAlong(shape, side('f', 2));
    const tie = createTie({ name: 'Seam', points, to: 'wide', keepsDistance: false, standOff: 0.001, drawnIn: 12 });
    const sewn = createCloth({ id: 'sewn', name: 'Sewn', shape, ties: [tie] });
    const wide: PatternShape = { ...shape, pieces: [rectangle('w', 0.4, 0.4, { position: [0, 1.1, 0] })] };
    const mesh = patternMesh(wide);
    const top = Array.from({ length: mesh.positions.length / 3 }, (_, i) => i).filter(
      (i) => mesh.positions[i * 3 + 1]! > 1.299,
    );
    const pinSets = [createPinSet({ name: 'Top', points: top })];
    const other = createCloth({ id: 'wide', name: 'Wide', shape: wide, pinSets });
    const baked = frames(new BakeRun(createShot({ name: 'x', things: [sewn, other], lastFrame: 30 }), NONE), 24);
    // The other cloth hangs in its plane: how far off a point is, is how far it is out of that.
    const gaps = baked.map(({ positions }) =>
      Math.max(...points.map((point) => Math.abs(positions[0]![point * 3 + 2]!))),
    );
    expect(gaps[0]).toBeCloseTo(0.1, 6);
    expect(gaps[3]).toBeGreaterThan(0.05);
    expect(gaps[8]).toBeLessThan(0.06);
    expect(baked[13]!.stats.crossings).toBe(0);
    expect(baked.at(-1)!.stats.maxStretch).toBeLessThan(0.03);
  });
});
