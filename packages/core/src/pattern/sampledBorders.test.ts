import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { topology } from '../mesh/topology';
import { makePiece, newNode } from './makePiece';
import { patternMesh } from './patternMesh';
import { areaOf, patternProblem } from './patternProblem';
import { crossedAtSpacing } from './sampledBorders';
import type { Pattern } from './schema';
import { sideCounts } from './sideCounts';

/** A piece of 50 by 40 cm with notches in its lower border, 0.1 to 30 mm wide, pointed or not, and a side that is curved. */
const notched = fc
  .record({
    notches: fc.array(
      fc.record({
        width: fc.double({ min: -4, max: -1.5, noNaN: true }).map((power) => 10 ** power),
        depth: fc.double({ min: 0.03, max: 0.35, noNaN: true }),
        lean: fc.double({ min: -0.02, max: 0.02, noNaN: true }),
        pointed: fc.boolean(),
      }),
      { maxLength: 4 },
    ),
    curved: fc.option(
      fc.record({
        at: fc.nat(20),
        handle: fc.tuple(...[0, 1].map(() => fc.double({ min: -0.06, max: 0.06, noNaN: true }))),
      }),
    ),
    spacing: fc.double({ min: 0.006, max: 0.025, noNaN: true }),
    weave: fc.constantFrom<Pattern['weave']>('all directions', 'along the grain'),
    grain: fc.double({ min: -3, max: 3, noNaN: true }),
  })
  .map(({ notches, curved, spacing, weave, grain }) => {
    const places: [number, number][] = [[-0.25, -0.2]];
    notches.forEach(({ width, depth, lean, pointed }, i) => {
      const [u, half] = [-0.25 + (0.5 * (i + 0.5)) / notches.length, width / 2];
      places.push([u - half, -0.2]);
      if (pointed) places.push([u + lean, -0.2 + depth]);
      else places.push([u - half + lean, -0.2 + depth], [u + half + lean, -0.2 + depth]);
      places.push([u + half, -0.2]);
    });
    places.push([0.25, -0.2], [0.25, 0.2], [-0.25, 0.2]);
    const outline = places.map((at) => newNode(at));
    if (curved) outline[curved.at % outline.length]!.after = curved.handle as [number, number];
    const piece = makePiece({ id: 'p', name: 'Flap', outline, grain });
    return { kind: 'pattern' as const, closing: 24, spacing, weave, pieces: [piece], seams: [] };
  });

describe('borders as a mesh has them', () => {
  it(
    'are all edges with one face, and around all of the piece, or it is told that they cross',
    { timeout: 60_000 },
    () => {
      let crossed = 0;
      fc.assert(
        fc.property(notched, (pattern) => {
          fc.pre(!patternProblem(pattern));
          if (crossedAtSpacing(pattern).length > 0) return void crossed++;
          const mesh = patternMesh(pattern);
          const { borderEdges, nonManifoldEdges, flippedEdges } = topology(mesh);
          const sides = [...sideCounts(pattern).values()].reduce((sum, count) => sum + count, 0);
          expect([borderEdges, nonManifoldEdges, flippedEdges]).toEqual([sides, 0, 0]);
          expect(new Set(mesh.triangles).size).toBe(mesh.positions.length / 3);
          let [area, turned] = [0, 0];
          const at = (point: number) => [mesh.material![point * 2]!, mesh.material![point * 2 + 1]!] as const;
          for (let t = 0; t < mesh.triangles.length; t += 3) {
            const [a, b, c] = [0, 1, 2].map((i) => at(mesh.triangles[t + i]!));
            const own = ((b![0] - a![0]) * (c![1] - a![1]) - (b![1] - a![1]) * (c![0] - a![0])) / 2;
            if (own <= 0) turned++;
            area += own;
          }
          expect(turned).toBe(0);
          expect(Math.abs(area / areaOf(pattern.pieces[0]!) - 1)).toBeLessThan(0.02);
        }),
        { numRuns: 60 },
      );
      expect(crossed).toBeLessThan(20);
    },
  );

  it('cross where a curve is nearer to another side than the chord of two points on it, and not where points lie nearer', () => {
    const outline = [
      [-0.2, -0.2],
      [0.04, -0.2],
      [0.05, 0.2545],
      [0.06, -0.2],
      [0.2, -0.2],
      [0.2, 0.2],
      [-0.2, 0.2],
    ].map((at) => newNode(at as [number, number]));
    outline[5]!.after = [-0.1, 0.08];
    outline[6]!.before = [0.1, 0.08];
    const pattern = {
      ...{ spacing: 0.1, weave: 'all directions' as const, seams: [] },
      pieces: [makePiece({ id: 'p', name: 'Arched', outline })],
    };
    expect(patternProblem(pattern)).toBeUndefined();
    expect(crossedAtSpacing(pattern).map(({ name }) => name)).toEqual(['Arched']);
    expect(crossedAtSpacing({ ...pattern, spacing: 0.02 })).toEqual([]);
  });
});
