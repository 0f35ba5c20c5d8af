import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Mesh } from '../mesh/mesh';
import { box } from '../mesh/shapes/box';
import { sheet } from '../mesh/shapes/sheet';
import { topology } from '../mesh/topology';
import { makePiece, rectangleNodes } from '../pattern/makePiece';
import { patternMesh } from '../pattern/patternMesh';
import { edgeRow } from './edgeRow';
import { faceRow } from './faceRow';
import { facesUpTo } from './facesUpTo';
import { foldedEdges } from './foldedEdges';
import { facesOfPoints, pointsOfEdges, pointsOfFaces } from './pointsOf';

// Six by four points: 0..5, 6..11, 12..17, 18..23.
const mesh = sheet({ width: 0.5, height: 0.3, spacing: 0.1 });

/** A tube of so many sides and rows about y; quads with one diagonal each. */
function tube(sides: number, rows: number): Mesh {
  const positions = Array.from({ length: rows + 1 }, (_, row) =>
    Array.from({ length: sides }, (_, i) => {
      const angle = (2 * Math.PI * i) / sides;
      return [Math.cos(angle), row * 0.4, Math.sin(angle)];
    }).flat(),
  ).flat();
  const triangles = Array.from({ length: rows * sides }, (_, quad) => {
    const [row, i] = [Math.floor(quad / sides) * sides, quad % sides];
    const [a, b] = [row + i, row + ((i + 1) % sides)];
    return [a, a + sides, b, b, a + sides, b + sides];
  }).flat();
  return { positions: Float32Array.from(positions), triangles: Uint32Array.from(triangles) };
}

function edgeBetween(of: Mesh, a: number, b: number): number {
  const { edgeCount, edgePoints } = topology(of);
  const ends = [a, b].sort((p, q) => p - q).join();
  return Array.from({ length: edgeCount }, (_, edge) => edge).find(
    (edge) => [...edgePoints.subarray(edge * 2, edge * 2 + 2)].sort((p, q) => p - q).join() === ends,
  )!;
}

const rowPoints = (of: Mesh, a: number, b: number) => pointsOfEdges(of, edgeRow(of, edgeBetween(of, a, b)));

describe('a row of edges', () => {
  it('goes straight from border to border of a sheet, along and across', () => {
    expect(rowPoints(mesh, 8, 9)).toEqual([6, 7, 8, 9, 10, 11]);
    expect(rowPoints(mesh, 8, 14)).toEqual([2, 8, 14, 20]);
  });

  it('goes along a border to its corners', () => {
    expect(rowPoints(mesh, 2, 3)).toEqual([0, 1, 2, 3, 4, 5]);
    expect(rowPoints(mesh, 6, 12)).toEqual([0, 6, 12, 18]);
  });

  it('goes round a tube of any number of sides, also along its end, and is there once', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 24 }), fc.integer({ min: 1, max: 4 }), fc.nat(), (sides, rows, at) => {
        const of = tube(sides, rows);
        const ring = at % (rows + 1);
        const i = at % sides;
        const row = edgeRow(of, edgeBetween(of, ring * sides + i, ring * sides + ((i + 1) % sides)));
        expect(row).toHaveLength(sides);
        expect(pointsOfEdges(of, row)).toEqual(Array.from({ length: sides }, (_, n) => ring * sides + n));
      }),
      { seed: 5, numRuns: 60 },
    );
  });

  it('goes along the edge of a box to its corners, and stops there', () => {
    const of = box({ size: [1, 1, 1] });
    expect(foldedEdges(of, 1)).toHaveLength(12);
    for (const edge of foldedEdges(of, 1)) expect(edgeRow(of, edge)).toEqual([edge]);
  });
});

describe('a row of faces', () => {
  it('is a strip of a sheet, whichever of its edges is asked', () => {
    const across = faceRow(mesh, edgeBetween(mesh, 8, 14));
    expect(pointsOfFaces(mesh, across)).toEqual([6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17]);
    expect(across).toHaveLength(10);
    expect(pointsOfFaces(mesh, faceRow(mesh, edgeBetween(mesh, 8, 9)))).toEqual([2, 3, 8, 9, 14, 15, 20, 21]);
  });

  it('goes round a tube and is closed', () => {
    const of = tube(12, 3);
    const row = faceRow(of, edgeBetween(of, 13, 25));
    expect(row).toEqual(Array.from({ length: 24 }, (_, i) => 24 + i));
    // From the diagonal of one of its faces it is a row too.
    expect(faceRow(of, edgeBetween(of, 13, 24)).length).toBeGreaterThan(2);
  });

  it('ends at triangles without a partner, and never goes on for ever', () => {
    const piece = makePiece({ name: 'x', outline: rectangleNodes(0.4, 0.3) });
    const uneven = patternMesh({ pieces: [piece], seams: [], spacing: 0.03, weave: 'all directions' });
    const { edgeCount } = topology(uneven);
    for (let edge = 0; edge < edgeCount; edge++) {
      const row = faceRow(uneven, edge);
      expect(row.length).toBeGreaterThan(0);
      expect(new Set(row).size).toBe(row.length);
      expect(new Set(edgeRow(uneven, edge)).size).toBe(edgeRow(uneven, edge).length);
    }
  });
});

describe('edges and faces by their angle', () => {
  it('takes the edges of a box, and a side of it from one of its points', () => {
    const of = box({ size: [1, 1, 1] });
    expect(foldedEdges(of, 1.6)).toEqual([]);
    const top = facesOfPoints(of, [0]).slice(0, 1);
    const side = pointsOfFaces(of, facesUpTo(of, top, Math.PI / 4));
    expect(new Set([0, 1, 2].map((k) => new Set(side.map((point) => of.positions[point * 3 + k])).size)).has(1)).toBe(
      true,
    );
  });

  it('takes the faces that are wholly among points, else those at them', () => {
    expect(facesOfPoints(mesh, [0, 1, 2, 6, 7, 8])).toHaveLength(4);
    expect(facesOfPoints(mesh, [8]).every((face) => mesh.triangles.subarray(face * 3, face * 3 + 3).includes(8))).toBe(
      true,
    );
    expect(facesOfPoints(mesh, [])).toEqual([]);
  });
});
