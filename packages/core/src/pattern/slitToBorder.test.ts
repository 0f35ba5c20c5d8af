import { describe, expect, it } from 'vitest';
import { findCard } from '../fabric/swatchBook';
import { BakeRun } from '../run/bakeRun';
import { frames, rectangle, side } from '../run/sewnShots';
import { createCloth, createPinSet, createShot, newId } from '../shot/create';
import { SLIT } from './cutSlits';
import { makePiece, newNode } from './makePiece';
import { patternMesh } from './patternMesh';
import { areaOf, patternProblem } from './patternProblem';
import { lineSchema, pleatsSchema, type PatternLine, type Piece } from './schema';
import { slitProblem, slitToBorder } from './slitToBorder';
import { findStretch } from './stretches';

const WEAVES = ['all directions', 'along the grain'] as const;

function slit(...places: (readonly [number, number])[]): PatternLine {
  return lineSchema.parse({ id: newId(), kind: 'slit', nodes: places.map((at) => newNode(at)) });
}

/** A piece of 40 by 30 cm with a slit. */
function slitPattern(line: PatternLine, more: Partial<Piece> = {}) {
  const piece = rectangle('p', 0.4, 0.3, { lines: [line], ...more });
  const shape = { kind: 'pattern' as const, spacing: 0.02, weave: 'all directions' as (typeof WEAVES)[number] };
  return { ...shape, closing: 12, pieces: [piece], seams: [] as ReturnType<typeof seam>[] };
}

function seam(a: ReturnType<typeof side>, b: ReturnType<typeof side>) {
  return { id: newId(), a, b, turned: false };
}

const SLITS: [string, () => PatternLine, 'hole' | 'notch'][] = [
  ['straight, inside', () => slit([-0.1, 0.02], [0.08, -0.03]), 'hole'],
  ['with a corner, inside', () => slit([-0.1, 0.02], [0, 0.06], [0.08, -0.03]), 'hole'],
  ['curved, inside', curvedSlit, 'hole'],
  ['from the lower border', () => slit([0.05, -0.15], [0.02, 0]), 'notch'],
  ['up to the lower border', () => slit([0.02, 0], [0.04, -0.05], [0.05, -0.15]), 'notch'],
  ['from a corner', () => slit([-0.2, -0.15], [-0.05, 0]), 'notch'],
  ['curved, from the left border', () => bent(slit([-0.2, 0.03], [0.05, 0])), 'notch'],
];

function curvedSlit(): PatternLine {
  return bent(slit([-0.1, 0.02], [0.08, -0.03]));
}

function bent(line: PatternLine): PatternLine {
  line.nodes[0]!.after = [0.04, 0.05];
  return line;
}

describe('a slit as part of the border', () => {
  it.each(SLITS.flatMap(([name, line, kind]) => WEAVES.map((weave) => [name, weave, line, kind] as const)))(
    '%s, %s, opens the piece as it did, and both of its lips are sides',
    (_, weave, line, kind) => {
      const pattern = { ...slitPattern(line()), weave };
      const [piece] = pattern.pieces as [Piece];
      const before = patternMesh(pattern);
      const own = slitToBorder(pattern, piece, piece.lines[0]!.id)!;
      expect(own).not.toBeNull();
      expect(patternProblem(pattern)).toBeUndefined();
      expect(piece.lines).toEqual([]);
      expect(piece.holes).toHaveLength(kind === 'hole' ? 1 : 0);
      const lips = [
        { piece: 'p', from: own.from, to: own.tip },
        { piece: 'p', from: own.tip, to: own.to },
      ].map((stretch) => findStretch(pattern.pieces, stretch)!);
      expect(Math.abs(lips[0]!.length - lips[1]!.length)).toBeLessThan(2 * SLIT);
      // As long as the slit, and as wide as one is cut.
      const taken = 0.12 - areaOf(piece);
      expect(taken).toBeGreaterThan(0.3 * SLIT * lips[0]!.length);
      expect(taken).toBeLessThan(SLIT * lips[0]!.length);
      const after = patternMesh(pattern);
      // It is open as far: about as many points.
      expect(Math.abs(after.positions.length / before.positions.length - 1)).toBeLessThan(0.08);
    },
  );

  it('is sewn shut again, as a dart is', () => {
    const pattern = slitPattern(slit([0.05, -0.15], [0.05, 0]), { position: [0, 1, 0] });
    const own = slitToBorder(pattern, pattern.pieces[0]!, pattern.pieces[0]!.lines[0]!.id)!;
    pattern.seams.push(seam({ piece: 'p', from: own.from, to: own.tip }, { piece: 'p', from: own.tip, to: own.to }));
    expect(patternProblem(pattern)).toBeUndefined();
    const { sewn, positions } = patternMesh(pattern);
    const together = [...sewn!].filter((first, point) => first !== point).length;
    // Half the piece's height at the spacing; at its tip the lips are one anyway.
    expect(together).toBe(8);
    const baked = frames(new BakeRun(createShot({ name: 'x', things: [hung(pattern, positions)] }), new Map()), 16);
    for (const { stats } of baked) expect([stats.crossings, stats.falseStretch! < 0.03]).toEqual([0, true]);
  });

  // A face was left across it, and torn to sixteen times its width when a gusset was let in.
  it('is open all along, however much nearer to each other its lips lie than points do', () => {
    const lines = [slit([0, -0.3], [0, 0.1])];
    const pattern = { ...slitPattern(lines[0]!), spacing: 0.01, pieces: [rectangle('p', 0.6, 0.6, { lines })] };
    expect(slitToBorder(pattern, pattern.pieces[0]!, lines[0]!.id)).not.toBeNull();
    const { positions, triangles } = patternMesh(pattern);
    for (let t = 0; t < triangles.length; t += 3) {
      const corners = [0, 1, 2].map((i) => [0, 1].map((k) => positions[triangles[t + i]! * 3 + k]!));
      const below = corners.filter((corner) => corner[1]! < 0.09).map((corner) => Math.sign(corner[0]!));
      // No face has corners on both sides of it.
      expect(below.includes(1) && below.includes(-1)).toBe(false);
    }
  });

  it('takes a gusset, which is let in between its lips', { timeout: 60_000 }, () => {
    const pattern = { ...slitPattern(slit([0, -0.15], [0, 0.03]), { position: [0, 1, 0] }), spacing: 0.01 };
    const own = slitToBorder(pattern, pattern.pieces[0]!, pattern.pieces[0]!.lines[0]!.id)!;
    const [half, height] = [0.06, Math.sqrt(0.18 ** 2 - 0.06 ** 2)];
    // Behind the panel, its point at the slit's tip.
    const outline = [
      [-half, -height],
      [half, -height],
      [0, 0],
    ].map((at, i) => ({ ...newNode(at as [number, number]), id: `g${i}` }));
    pattern.pieces.push(makePiece({ id: 'g', name: 'Gusset', outline, position: [0, 1.03, -0.03] }));
    // The lip to the left, from the hem up, and the left side of the gusset, from its point down.
    pattern.seams.push(
      seam({ piece: 'p', from: own.from, to: own.tip }, { piece: 'g', from: 'g2', to: 'g0' }),
      seam({ piece: 'p', from: own.tip, to: own.to }, { piece: 'g', from: 'g1', to: 'g2' }),
    );
    expect(patternProblem(pattern)).toBeUndefined();
    const { sewn, positions } = patternMesh(pattern);
    const baked = frames(new BakeRun(createShot({ name: 'x', things: [hung(pattern, positions)] }), new Map()), 30);
    for (const { stats } of baked) expect(stats.crossings).toBe(0);
    const last = baked.at(-1)!;
    expect(last.stats.falseStretch).toBeLessThan(0.03);
    const apart = [...sewn!].map((first, point) =>
      Math.hypot(...[0, 1, 2].map((k) => last.positions[0]![point * 3 + k]! - last.positions[0]![first * 3 + k]!)),
    );
    expect(Math.max(...apart)).toBe(0);
    // The slit stands open by the gusset's width at the hem, which flares out of the panel.
    const depths = last.positions[0]!.filter((_, i) => i % 3 === 2);
    expect(Math.max(...depths) - Math.min(...depths)).toBeGreaterThan(0.02);
  });

  it('leaves seams beside it that end where it begins', () => {
    const pattern = slitPattern(slit([0.2, -0.15], [0.05, 0]));
    const other = rectangle('q', 0.4, 0.3, { position: [0, 0, 0.1] });
    pattern.pieces.push(other);
    pattern.seams.push(seam(side('p', 0), side('q', 0)), seam(side('p', 1), side('q', 3)));
    const lengths = () => pattern.seams.map(({ a }) => Number(findStretch(pattern.pieces, a)!.length.toFixed(2)));
    expect(lengths()).toEqual([0.4, 0.3]);
    expect(slitToBorder(pattern, pattern.pieces[0]!, pattern.pieces[0]!.lines[0]!.id)).not.toBeNull();
    expect(lengths()).toEqual([0.4, 0.3]);
    expect(patternProblem(pattern)).toBeUndefined();
  });

  it('says why it cannot be', () => {
    const across = slitPattern(slit([0.05, -0.15], [0.05, 0.15]));
    const problem = (pattern: typeof across) => slitProblem(pattern, pattern.pieces[0]!, pattern.pieces[0]!.lines[0]!);
    expect(problem(across)).toMatch(/cuts the piece in two/);
    const sewnOver = slitPattern(slit([0.05, -0.15], [0.05, 0]));
    sewnOver.pieces.push(rectangle('q', 0.4, 0.3));
    sewnOver.seams.push(seam(side('p', 0), side('q', 0)));
    expect(problem(sewnOver)).toMatch(/seam runs across/);
    const whole = slitPattern(slit([0.2, -0.15], [0.05, 0]));
    whole.pieces.push(rectangle('q', 0.4, 0.3));
    whole.seams.push(seam({ piece: 'p', from: 'p0', to: 'p0' }, { piece: 'q', from: 'q0', to: 'q0' }));
    expect(problem(whole)).toMatch(/seam runs across/);
    // Nor where it begins and ends there: it would no longer go all around, and the other border would.
    const around = slitPattern(slit([-0.2, -0.15], [-0.05, 0]));
    around.pieces.push(rectangle('q', 0.4, 0.3));
    around.seams.push(seam({ piece: 'p', from: 'p0', to: 'p0' }, { piece: 'q', from: 'q0', to: 'q0' }));
    expect(problem(around)).toMatch(/seam runs across/);
    const pleated = slitPattern(slit([0.05, -0.15], [0.05, 0]), { pleats: pleatsSchema.parse({ side: 'p0' }) });
    expect(problem(pleated)).toMatch(/pleats lie across/);
    for (const pattern of [across, sewnOver, whole, around, pleated]) {
      const before = structuredClone(pattern);
      expect(slitToBorder(pattern, pattern.pieces[0]!, pattern.pieces[0]!.lines[0]!.id)).toBeNull();
      expect(pattern).toEqual(before);
    }
  });
});

/** A cloth of a pattern that hangs by the upper corners of its first piece. */
function hung(shape: ReturnType<typeof slitPattern>, positions: Float32Array) {
  const corners = [-1, 1].map((way) => {
    let best = 0;
    for (let i = 0; i < positions.length / 3; i++) {
      const reach = (point: number) => way * positions[point * 3]! + positions[point * 3 + 1]!;
      if (reach(i) > reach(best)) best = i;
    }
    return best;
  });
  return createCloth({
    ...{ name: 'Flap', card: findCard('cotton-poplin')!.id, shape },
    pinSets: [createPinSet({ name: 'Corners', points: corners })],
  });
}
