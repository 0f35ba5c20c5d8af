import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { findCard } from '../fabric/swatchBook';
import { crossings } from '../mesh/crossings';
import type { Mesh } from '../mesh/mesh';
import { BakeRun } from '../run/bakeRun';
import { createCloth, createPinSet, createShot } from '../shot/create';
import { SHAPES, shapeMesh, type PatternShape } from '../shot/shapes';
import { Solver } from '../solver/solver';
import { mirroredPiece, removeNodes } from './editPattern';
import { makePiece, rectangleNodes } from './makePiece';
import { patternMesh } from './patternMesh';
import { patternProblem } from './patternProblem';
import { deepestPleats, pleatProfile } from './pleatProfile';
import { pleatsSchema, type Pleats } from './schema';

const KINDS = ['knife', 'box', 'rolled'] as const;
const WEAVES = ['all directions', 'along the grain'] as const;

const pleats = (more: Partial<Pleats> = {}) => pleatsSchema.parse({ side: 'n2', count: 3, ...more });

/** A hanging of 60 by 30 cm, pleated along its upper side, a metre up. */
function hanging(more: Partial<Pleats> = {}, shape: Partial<PatternShape> = {}): PatternShape {
  const outline = rectangleNodes(0.6, 0.3).map((node, i) => ({ ...node, id: `n${i}` }));
  const piece = makePiece({ id: 'p', name: 'Hanging', outline, position: [0, 1, 0], pleats: pleats(more) });
  return {
    ...{ kind: 'pattern', spacing: 0.015, weave: 'all directions', pieces: [piece], seams: [], closing: 24 },
    ...shape,
  };
}

/** By how much an edge is longer or shorter than it is cut, at most, as a share. */
function mostStretched({ positions, triangles, material }: Mesh): number {
  let most = 0;
  triangles.forEach((a, i) => {
    const b = triangles[i % 3 === 2 ? i - 2 : i + 1]!;
    const apart = (values: ArrayLike<number>, size: number) =>
      Math.hypot(...Array.from({ length: size }, (_, k) => values[a * size + k]! - values[b * size + k]!));
    most = Math.max(most, Math.abs(apart(positions, 3) / apart(material!, 2) - 1));
  });
  return most;
}

/** How wide a row is, and how far it stands out, of points at a height, in m. */
function rowAt(positions: Float32Array, height: number): { width: number; depth: number } {
  const row = Array.from({ length: positions.length / 3 }, (_, i) => i).filter(
    (i) => Math.abs(positions[i * 3 + 1]! - height) < 0.012,
  );
  const span = (axis: number) =>
    Math.max(...row.map((i) => positions[i * 3 + axis]!)) - Math.min(...row.map((i) => positions[i * 3 + axis]!));
  return { width: span(0), depth: span(2) };
}

function topOf({ positions }: Mesh): number[] {
  return Array.from({ length: positions.length / 3 }, (_, i) => i).filter((i) => positions[i * 3 + 1]! > 1.1499);
}

describe('the way of pleats', () => {
  const any = fc.record({
    kind: fc.constantFrom(...KINDS),
    count: fc.integer({ min: 1, max: 30 }),
    share: fc.double({ min: 0.05, max: 1, noNaN: true }),
    length: fc.double({ min: 0.1, max: 5, noNaN: true }),
  });

  it('is as long as the cloth, as deep as it was asked for, and ends where it began', () => {
    fc.assert(
      fc.property(any, ({ kind, count, share, length }) => {
        const depth = share * deepestPleats({ kind, count }, length);
        const profile = pleatProfile({ ...pleats(), kind, count, depth, room: depth / 4 }, length);
        let [sum, most, before] = [0, 0, profile.placeAt(0)];
        const steps = 128 * count;
        const turns = [...profile.creases, ...Array.from({ length: steps }, (_, i) => ((i + 1) * length) / steps)];
        for (const along of turns.sort((a, b) => a - b)) {
          const at = profile.placeAt(along);
          sum += Math.hypot(at[0] - before[0], at[1] - before[1]);
          most = Math.max(most, at[1]);
          before = at;
        }
        expect(sum).toBeCloseTo(length, 6);
        expect(most / (kind === 'rolled' ? depth : depth / 4)).toBeCloseTo(1, 3);
        expect(before[0]).toBeCloseTo(profile.width, 9);
        expect(before[1]).toBeCloseTo(0, 6);
        expect(profile.creases).toHaveLength(kind === 'rolled' ? 0 : count * (kind === 'box' ? 4 : 2));
      }),
      { numRuns: 60 },
    );
  });
});

describe('a pleated piece', () => {
  it.each(KINDS.flatMap((kind) => WEAVES.map((weave) => [kind, weave] as const)))(
    'of %s pleats lies folded and not stretched, and does not pass through itself, in a mesh %s',
    (kind, weave) => {
      const depth = deepestPleats({ kind, count: 3 }, 0.6) * 0.95;
      const mesh = patternMesh(hanging({ kind, depth }, { weave }));
      expect(mostStretched(mesh)).toBeLessThan(kind === 'rolled' ? 0.04 : 1e-4);
      let crossed = 0;
      crossings(mesh, () => crossed++);
      expect(crossed).toBe(0);
      expect(rowAt(mesh.positions, 1).width).toBeLessThan(0.55);
    },
  );

  it('is folded less where it is less pressed, but stays stitched down along its side', () => {
    const [soft, pressed] = [0, 1].map((share) => patternMesh(hanging({ pressed: share })).folds!);
    expect(soft!.angles.length).toBeGreaterThan(0);
    expect(soft!.angles.length).toBeLessThan(pressed!.angles.length / 4);
    expect(Math.max(...soft!.angles)).toBeCloseTo(Math.max(...pressed!.angles), 6);
  });

  it.each(KINDS)('of %s pleats, pressed, keeps its depth and width after hanging for 5 s', (kind) => {
    const depth = kind === 'box' ? 0.025 : 0.04;
    const shape = hanging({ kind, depth, room: 0.006 });
    const start = shapeMesh(shape, new Map());
    const fabric = findCard('cotton-poplin')!.fabric;
    const cloth = createCloth({
      ...{ name: 'Hanging', shape, fabric },
      pinSets: [createPinSet({ name: 'Top', points: topOf(start) })],
    });
    const run = new BakeRun(createShot({ name: 'x', things: [cloth], lastFrame: 121 }), new Map());
    let last = run.next();
    for (let frame = 1; frame < 121; frame++) {
      last = run.next();
      expect(last.stats.crossings).toBe(0);
    }
    const [before, after] = [start.positions, last.positions[0]!].map((positions) => rowAt(positions, 0.9));
    // Of creased pleats the depth is told by how much narrower the cloth lies than it is cut.
    const depthOf = (row: { width: number; depth: number }) =>
      kind === 'rolled' ? row.depth : (0.6 - row.width) / (kind === 'box' ? 12 : 6);
    expect(Math.abs(depthOf(before!) / depth - 1)).toBeLessThan(0.03);
    expect(Math.abs(depthOf(after!) / depth - 1)).toBeLessThan(0.1);
    expect(after!.depth / before!.depth).toBeLessThan(1.5);
    expect(last.stats.maxStretch).toBeLessThan(0.03);
  });

  it('opens where it is soft', () => {
    const shape = hanging({ depth: 0.04, pressed: 0 });
    const start = shapeMesh(shape, new Map());
    const pinSets = [createPinSet({ name: 'Top', points: topOf(start) })];
    const run = new BakeRun(createShot({ name: 'x', things: [createCloth({ name: 'a', shape, pinSets })] }), new Map());
    let last = run.next();
    for (let frame = 1; frame < 20; frame++) last = run.next();
    expect(rowAt(last.positions[0]!, 0.9).depth).toBeGreaterThan(4 * rowAt(start.positions, 0.9).depth);
    expect(last.stats.crossings).toBe(0);
  });
});

describe('pleats that cannot be had', () => {
  it('say what would do', () => {
    expect(patternProblem(hanging({ depth: 0.07 }))?.message).toBe(
      '“Hanging” cannot be pleated: its 3 pleats need more cloth than it has: make them at most 6.6 cm deep, or take 2',
    );
    expect(patternProblem(hanging({ depth: 0.004, room: 0.004 }))?.message).toContain('room in its pleats');
    expect(patternProblem(hanging({ side: 'gone' }))?.message).toContain('not there');
  });

  it('go with the node that their side begins with, and into a mirror', () => {
    const shape = hanging();
    const mirrored = mirroredPiece(shape.pieces[0]!, 'Other');
    expect(patternProblem({ ...shape, pieces: [mirrored] })).toBeUndefined();
    const rows = [shape.pieces[0]!, mirrored].map((piece) =>
      rowAt(patternMesh({ ...shape, pieces: [piece] }).positions, 1),
    );
    expect(rows[1]!.width).toBeCloseTo(rows[0]!.width, 5);
    removeNodes(shape, 'p', ['n2']);
    expect(shape.pieces[0]!.pleats).toBeNull();
  });

  it('are as deep again where the piece is made twice as large', () => {
    const shape = hanging({ depth: 0.04 });
    const larger = SHAPES.pattern.resize(shape, [2, 2, 2]) as PatternShape;
    expect(larger.pieces[0]!.pleats!.depth).toBeCloseTo(0.08, 9);
    expect(patternProblem(larger)).toBeUndefined();
  });
});

describe('layers that touch right beside a held point', () => {
  it('do not throw what is free', () => {
    // Folded sharply as it lies, flat as it is cut, and held at its top: layers are nearer to each other than their thickness all along the folds.
    const { positions, triangles, material } = patternMesh(hanging({ depth: 0.04, room: 0.001 }));
    const mesh: Mesh = { positions, triangles, material: material! };
    const fabric = findCard('cotton-poplin')!.fabric;
    const solver = new Solver({
      cloths: [{ id: 'a', rest: mesh, positions: mesh.positions, fabric, held: topOf(mesh) }],
      colliders: [],
      air: { gravity: [0, 0, 0], density: 0, windAt: () => [0, 0, 0] },
      layers: 'exact',
    });
    solver.advance(1 / 240, 8);
    const now = solver.positions(0);
    const moved = mesh.positions.map((value, i) => Math.abs(now[i]! - value));
    expect(Math.max(...moved)).toBeLessThan(0.02);
  });
});
