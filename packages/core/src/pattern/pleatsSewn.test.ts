import { applyPatches, enablePatches } from 'immer';
import { describe, expect, it } from 'vitest';
import { findCard } from '../fabric/swatchBook';
import { checkShot, mendFinding } from '../checks';
import { crossings } from '../mesh/crossings';
import { distance, sidesOf } from '../mesh/outline/path';
import { BakeRun } from '../run/bakeRun';
import { createCloth, createPinSet, createShot } from '../shot/create';
import { pointsAlong } from '../run/autoTies';
import { rectangle, side } from '../run/sewnShots';
import { shapeMesh, type PatternShape } from '../shot/shapes';
import { autoSeam } from './autoSeam';
import { addNode, easeOf, mirroredPiece, removeNodes } from './editPattern';
import { pleatProfile } from './pleatProfile';
import { pleatRow } from './pleatRow';
import { pleatsSchema, type Piece, type Pleats } from './schema';
import { pairsOfSeams } from './seamLines';
import { sewnAsFolded } from './sewAsFolded';
import { sewnLength } from './sewnRuns';
import { findStretch } from './stretches';

enablePatches();

const KINDS = ['knife', 'box'] as const;
const WEAVES = ['all directions', 'along the grain'] as const;
const HIGH = 0.05;

function skirt(more: Partial<Pleats> = {}): Piece {
  const pleats = pleatsSchema.parse({ side: 's2', count: 4, depth: 0.03, room: 0.004, ...more });
  return rectangle('s', 0.6, 0.25, { pleats });
}

/** A pleated skirt whose upper border is sewn to a band above it, as long as the pleats lie wide or of another length. */
function banded(more: Partial<Pleats> = {}, shape: Partial<PatternShape> = {}, length?: number): PatternShape {
  const own = skirt(more);
  const width = length ?? pleatRow(own)!.profile.across;
  const band = rectangle('b', width, HIGH, { position: [0, 0.125 + HIGH / 2 + 0.004, 0] });
  return {
    ...{ kind: 'pattern', spacing: 0.012, weave: 'all directions', pieces: [own, band], closing: 16 },
    seams: [{ id: 'seam', a: side('s', 2), b: side('b', 0), turned: false }],
    ...shape,
  };
}

describe('what of pleats is seen from their face', () => {
  it.each(KINDS)('is as wide as a row of %s pleats lies, and lies on top everywhere', (kind) => {
    for (const depth of [0.01, 0.025, kind === 'box' ? 0.6 / 4 / 6 : 0.6 / 4 / 3]) {
      const profile = pleatProfile({ ...skirt().pleats!, kind, depth, room: 0.0005 }, 0.6);
      const wide = profile.seen.reduce((sum, [a, b]) => sum + profile.placeAt(b)[0] - profile.placeAt(a)[0], 0);
      expect(wide).toBeCloseTo(profile.across, 6);
      const places = Array.from({ length: 1200 }, (_, i) => (i + 0.5) * 0.0005);
      for (const at of places) {
        const [across, out] = profile.placeAt(at);
        const isSeen = profile.seen.some(([a, b]) => at > a && at < b);
        // Nothing of the way that lies at the same place across is further out than what is seen.
        const over = places.some((other) => {
          const [x, y] = profile.placeAt(other);
          return Math.abs(x - across) < 0.0004 && y > out + 1e-4;
        });
        if (isSeen) expect(over).toBe(false);
      }
    }
  });
});

describe('pleats that are sewn', () => {
  it.each(KINDS.flatMap((kind) => WEAVES.map((weave) => [kind, weave] as const)))(
    'are sewn as they lie: %s, in a mesh %s',
    (kind, weave) => {
      const depth = kind === 'box' ? 0.02 : 0.03;
      const shape = banded({ kind, depth }, { weave });
      const mesh = shapeMesh(shape, new Map());
      const [pairs] = pairsOfSeams(shape);
      // Each point of the band's border goes to one that lies across from it: nothing is drawn sideways.
      for (const [one, other] of pairs!) {
        expect(Math.abs(mesh.positions[one * 3]! - mesh.positions[other * 3]!)).toBeLessThan(0.001);
      }
      // All of the band is sewn, and no layer underneath.
      const ofBand = new Set(pairs!.map(([, other]) => other));
      const { count, first } = mesh.parts![1]!;
      const border = Array.from({ length: count }, (_, i) => first + i).filter(
        (point) => mesh.positions[point * 3 + 1]! < 0.125 + 0.0041,
      );
      expect(border.filter((point) => !ofBand.has(point))).toEqual([]);
      expect(easeOf(shape.pieces, shape.seams[0]!)).toBeLessThan(0.01);
    },
  );

  it('go on to a band of another length by its share, whichever of the two is named first', () => {
    const shape = banded({}, {}, 0.3);
    const [seam] = shape.seams;
    for (const swapped of [shape, { ...shape, seams: [{ ...seam!, a: seam!.b, b: seam!.a }] }]) {
      const { positions } = shapeMesh(swapped, new Map());
      const wide = pleatRow(shape.pieces[0]!)!.profile.across;
      for (const [one, other] of pairsOfSeams(swapped)[0]!) {
        const [skirtX, bandX] = swapped === shape ? [one, other] : [other, one];
        expect(positions[bandX * 3]! / 0.3).toBeCloseTo(positions[skirtX * 3]! / wide, 1);
      }
    }
    expect(easeOf(shape.pieces, seam!)).toBeCloseTo(pleatRow(shape.pieces[0]!)!.profile.across / 0.3 - 1, 2);
  });

  it('are cut at their folds without moving a border, and nothing else is', () => {
    const shape = banded();
    const folded = sewnAsFolded(shape);
    for (const [i, piece] of folded.pieces.entries()) {
      const length = (nodes: Piece['outline']) =>
        sidesOf(nodes).reduce((sum, { from, to }) => sum + distance(from.at, to.at), 0);
      expect(length(piece.outline)).toBeCloseTo(length(shape.pieces[i]!.outline), 9);
      expect(pleatRow(piece)?.length).toBe(pleatRow(shape.pieces[i]!)?.length);
    }
    expect(folded.seams.every(({ a, b }) => findStretch(folded.pieces, a) && findStretch(folded.pieces, b))).toBe(true);
    const rolled = banded({ kind: 'rolled' }, {}, 0.4);
    expect(sewnAsFolded(rolled)).toBe(rolled);
    const elsewhere = { ...shape, seams: [{ ...shape.seams[0]!, a: side('s', 1) }] };
    expect(sewnAsFolded(elsewhere).seams).toEqual(elsewhere.seams);
  });

  it('are sewn to other pleats, each as it lies, and no part of a seam goes the long way round', () => {
    for (const [count, other] of [
      [4, 4],
      [4, 5],
      [9, 2],
      [12, 11],
    ] as const) {
      const one = skirt({ count, depth: 0.01 });
      const two = rectangle('b', 0.6, 0.2, {
        pleats: pleatsSchema.parse({ side: 'b0', count: other, depth: 0.01, room: 0.001 }),
      });
      const seams = [{ id: 'seam', a: side('s', 2), b: side('b', 0), turned: false }];
      const folded = sewnAsFolded({ spacing: 0.02, weave: 'all directions', pieces: [one, two], seams });
      expect(folded.seams.length).toBeGreaterThan(Math.max(count, other));
      const lengths = folded.seams.map(({ a, b }) => [a, b].map((part) => findStretch(folded.pieces, part)!.length));
      for (const [place, piece] of [one, two].entries()) {
        const sewn = lengths.reduce((sum, both) => sum + both[place]!, 0);
        expect(sewn).toBeCloseTo(sewnLength(findStretch([piece], side(piece.id, place === 0 ? 2 : 0))!), 9);
      }
    }
  });

  it('are found by auto seam where a band lies along them', () => {
    const shape = banded();
    const [found, ...more] = autoSeam({ pieces: shape.pieces, seams: [] }, 0.012);
    expect(more).toEqual([]);
    expect([found!.a.piece, found!.b.piece].sort()).toEqual(['b', 's']);
  });

  it.each(KINDS)('hang from their band, %s, closed and uncrossed, as deep as they were laid', (kind) => {
    const depth = kind === 'box' ? 0.02 : 0.03;
    const shape = banded({ kind, depth });
    const mesh = shapeMesh(shape, new Map());
    let started = 0;
    crossings(mesh, () => started++);
    expect(started).toBe(0);
    const top = Array.from({ length: mesh.positions.length / 3 }, (_, i) => i).filter(
      (i) => mesh.positions[i * 3 + 1]! > 0.125 + HIGH + 0.003,
    );
    const cloth = createCloth({
      ...{ name: 'Skirt', shape, fabric: findCard('cotton-poplin')!.fabric },
      position: [0, 1, 0],
      pinSets: [createPinSet({ name: 'Waist', points: top })],
    });
    const run = new BakeRun(createShot({ name: 'x', things: [cloth], lastFrame: 60 }), new Map());
    let last = run.next();
    for (let frame = 2; frame <= 60; frame++) {
      last = run.next();
      expect(last.stats.crossings).toBe(0);
    }
    const positions = last.positions[0]!;
    for (const [one, other] of pairsOfSeams(shape)[0]!) {
      expect(Math.hypot(...[0, 1, 2].map((k) => positions[one * 3 + k]! - positions[other * 3 + k]!))).toBeLessThan(
        5e-5,
      );
    }
    const widthAt = (of: Float32Array, height: number) => {
      const row = Array.from({ length: mesh.parts![0]!.count }, (_, i) => of[i * 3 + 1]! - height).flatMap((off, i) =>
        Math.abs(off) < 0.012 ? [of[i * 3]!] : [],
      );
      return Math.max(...row) - Math.min(...row);
    };
    const [before, after] = [widthAt(mesh.positions, -0.06), widthAt(positions, 0.94)];
    expect(Math.abs((0.6 - after) / (0.6 - before) - 1)).toBeLessThan(0.1);
    expect(last.stats.maxStretch).toBeLessThan(0.03);
  });

  it('are sewn to a thing by what is not under a fold', () => {
    const shape = { ...banded({ depth: 0.03 }), seams: [] };
    const { positions } = shapeMesh(shape, new Map());
    const points = pointsAlong(shape, side('s', 2));
    const across = points.map((point) => positions[point * 3]!);
    expect(across).toEqual([...across].sort((p, q) => q - p));
    expect(Math.max(...across) - Math.min(...across)).toBeCloseTo(pleatRow(shape.pieces[0]!)!.profile.across, 2);
    expect(pointsAlong(shape, side('s', 0)).length).toBeGreaterThan(points.length);
  });

  it('are told gathered by how wide they lie, and the band is made as long', async () => {
    const shape = banded({}, {}, 0.3);
    const shot = createShot({ name: 'x', things: [createCloth({ id: 'c', name: 'Skirt', shape })] });
    const gathered = () =>
      checkShot(shot, new Map(), { bake: null, bytesFree: null }).filter(({ check }) => check === 'seams-gathered');
    const [finding, ...more] = gathered();
    expect(more).toEqual([]);
    const { forward } = await mendFinding(shot, new Map(), finding!);
    const { shape: mended } = applyPatches(shot, forward).things[0] as { shape: PatternShape };
    expect(easeOf(mended.pieces, mended.seams[0]!)).toBeLessThan(1e-6);
    expect(mended.pieces[0]!.outline).toEqual(shape.pieces[0]!.outline);
  });
});

describe('the side of pleats', () => {
  it('stays what it was when a node is put on it, taken away again, or all is mirrored', () => {
    const piece = structuredClone(skirt());
    const before = pleatRow(piece)!;
    const added = addNode(piece, 's2', 0.4)!;
    expect(pleatRow(piece)).toMatchObject({ length: before.length, sides: [2, 3] });
    const other = mirroredPiece(piece, 'Other');
    expect(pleatRow(other)!.length).toBeCloseTo(before.length, 9);
    const pattern = { pieces: [piece], seams: [] };
    removeNodes(pattern, 's', [added]);
    expect(pleatRow(piece)!.length).toBe(before.length);
    // Without the node at which they end they go on to the next.
    removeNodes(pattern, 's', ['s3']);
    expect(pleatRow(piece)!.sides).toEqual([2]);
  });
});
