import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Mesh } from '../mesh/mesh';
import { placeAt } from '../mesh/outline/path';
import { topology } from '../mesh/topology';
import { createCloth, createShot, newId } from '../shot/create';
import { SettleRun } from '../run/settleRun';
import { SLIT } from './cutSlits';
import { addNode, mirroredPiece, removeNodes, setCurved, unfoldPiece } from './editPattern';
import { discNodes, makePiece, newNode, rectangleNodes } from './makePiece';
import { patternMesh } from './patternMesh';
import { patternProblem } from './patternProblem';
import { lineSchema, type Pattern, type PatternLine, type Piece } from './schema';

const WEAVES = ['all directions', 'along the grain'] as const;

function line(places: readonly (readonly [number, number])[], more: Partial<PatternLine> = {}): PatternLine {
  return lineSchema.parse({ id: newId(), nodes: places.map((at) => newNode(at)), ...more });
}

function patternOf(lines: PatternLine[], more: Partial<Piece> & { weave?: Pattern['weave']; spacing?: number } = {}) {
  const { weave = 'all directions', spacing = 0.02, ...piece } = more;
  const outline = rectangleNodes(0.4, 0.3).map((node, i) => ({ ...node, id: `n${i}` }));
  const made = makePiece({ id: 'p', name: 'Flap', outline, grain: 0, lines, ...piece });
  return { kind: 'pattern' as const, spacing, weave, pieces: [made], seams: [], closing: 24 };
}

function borders(mesh: Mesh): number {
  return topology(mesh).borderEdges;
}

function areaOf({ triangles, material }: Mesh): number {
  let sum = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((i) => [0, 1].map((k) => material![triangles[t + i]! * 2 + k]!)) as number[][];
    sum += ((b![0]! - a![0]!) * (c![1]! - a![1]!) - (b![1]! - a![1]!) * (c![0]! - a![0]!)) / 2;
  }
  return sum;
}

/** The smallest angle of all triangles, in degrees, in the flat. */
function smallestAngle({ triangles, material }: Mesh): number {
  let least = 180;
  for (let t = 0; t < triangles.length; t += 3) {
    for (let i = 0; i < 3; i++) {
      const [p, q, r] = [0, 1, 2].map((n) => triangles[t + ((i + n) % 3)]! * 2) as [number, number, number];
      const [u, v] = [q, r].map((to) => [material![to]! - material![p]!, material![to + 1]! - material![p + 1]!]);
      const angle = Math.atan2(u![0]! * v![1]! - u![1]! * v![0]!, u![0]! * v![0]! + u![1]! * v![1]!);
      least = Math.min(least, (angle * 180) / Math.PI);
    }
  }
  return least;
}

describe('a crease', () => {
  it.each(WEAVES)('is edges of the mesh from one of its ends to the other, in a mesh %s', (weave) => {
    const crease = line(
      [
        [-0.13, -0.15],
        [0.07, 0.15],
      ],
      { fold: 1 },
    );
    const mesh = patternMesh(patternOf([crease], { weave }));
    const { edges, angles } = mesh.folds!;
    const t = topology(mesh);
    const known = new Set(
      Array.from({ length: t.edgeCount }, (_, i) => [...t.edgePoints.slice(i * 2, i * 2 + 2)].sort().join()),
    );
    let length = 0;
    for (let i = 0; i < edges.length; i += 2) {
      const [a, b] = [edges[i]!, edges[i + 1]!];
      expect(known.has([a, b].sort().join())).toBe(true);
      length += Math.hypot(...[0, 1].map((k) => mesh.material![a * 2 + k]! - mesh.material![b * 2 + k]!));
    }
    expect(length).toBeCloseTo(Math.hypot(0.2, 0.3), 6);
    expect([...angles].every((angle) => angle === 1)).toBe(true);
    expect(smallestAngle(mesh)).toBeGreaterThan(20);
    expect(areaOf(mesh)).toBeCloseTo(0.12, 6);
  });

  it('follows a curve, and leaves a piece without lines as it is', () => {
    const curve = line([
      [-0.1, 0],
      [0.1, 0],
    ]);
    curve.nodes[0]!.after = [0.05, 0.1];
    curve.fold = 1;
    const curved = patternMesh(patternOf([curve]));
    const { edges } = curved.folds!;
    expect(edges.length / 2).toBeGreaterThan(9);
    const side = { from: curve.nodes[0]!, to: curve.nodes[1]! };
    const course = Array.from({ length: 2001 }, (_, i) => placeAt(side, i / 2000));
    for (const point of edges) {
      // Material coordinates count from the lower left corner.
      const [u, v] = [curved.material![point * 2]! - 0.2, curved.material![point * 2 + 1]! - 0.15];
      expect(Math.min(...course.map(([x, y]) => Math.hypot(x - u, y - v)))).toBeLessThan(1e-4);
    }
    expect(patternMesh(patternOf([])).folds).toBeUndefined();
    expect(
      patternMesh(
        patternOf([
          line([
            [-0.1, 0],
            [0.1, 0],
          ]),
        ]),
      ).folds,
    ).toBeUndefined();
  });

  it('stands of itself as far as it is folded, its face inwards or outwards', () => {
    for (const degrees of [90, -60]) {
      const fold = (degrees * Math.PI) / 180;
      const crease = line(
        [
          [0, -0.04],
          [0, 0.04],
        ],
        { fold },
      );
      const outline = rectangleNodes(0.08, 0.08);
      const shape = patternOf([crease], { outline, position: [0, 1, 0], spacing: 0.01 });
      const cloth = createCloth({ name: 'Flap', shape });
      const shot = createShot({ name: 'x', things: [cloth], gravity: { enabled: false } as never });
      const run = new SettleRun(shot, new Map());
      let at = run.next();
      for (let i = 0; i < 60; i++) at = run.next();
      const p = at.positions[0]!;
      const mesh = patternMesh(shape);
      // Both halves, each as the direction from the crease to its far side.
      const [left, right] = [-1, 1].map((side) => {
        const sum = [0, 0, 0];
        for (let i = 0; i < p.length / 3; i++) {
          const u = mesh.material![i * 2]! - 0.04;
          // As many points on the far side as on the crease.
          const weight = Math.abs(u) > 0.0399 && Math.sign(u) === side ? 1 : Math.abs(u) < 1e-6 ? -1 : 0;
          for (let k = 0; k < 3; k++) sum[k]! += weight * p[i * 3 + k]!;
        }
        return sum;
      });
      const dot = left!.reduce((sum, v, k) => sum + v * right![k]!, 0);
      const between = (Math.acos(dot / (Math.hypot(...left!) * Math.hypot(...right!))) * 180) / Math.PI;
      expect(180 - between).toBeGreaterThan(Math.abs(degrees) - 4);
      expect(180 - between).toBeLessThan(Math.abs(degrees) + 4);
      // Faces lie towards +z: folded inwards, both sides come forward of the crease.
      expect(Math.sign(left![2]! + right![2]!)).toBe(Math.sign(degrees));
    }
  });
});

describe('a slit', () => {
  it.each(WEAVES)('is a hole without width inside, in a mesh %s', (weave) => {
    const shape = (lines: PatternLine[]) => patternOf(lines, { weave });
    const places = [
      [-0.1, 0],
      [0.1, 0],
    ] as const;
    const [whole, open] = [patternMesh(shape([line(places)])), patternMesh(shape([line(places, { kind: 'slit' })]))];
    const pieces = Math.round(0.2 / 0.02);
    expect(open.positions.length / 3).toBe(whole.positions.length / 3 + pieces - 1);
    expect(borders(open)).toBe(borders(whole) + 2 * pieces);
    expect(areaOf(open)).toBeCloseTo(areaOf(whole) - 0.2 * SLIT * (1 - 1 / pieces), 5);
  });

  it.each(WEAVES)('cuts in from a border, or through a piece, in a mesh %s', (weave) => {
    const cut = (places: readonly (readonly [number, number])[]) =>
      patternMesh(patternOf([line(places, { kind: 'slit' })], { weave }));
    const partsOf = (mesh: Mesh) => {
      const of = Uint32Array.from({ length: mesh.positions.length / 3 }, (_, i) => i);
      const root = (i: number): number => (of[i] === i ? i : (of[i] = root(of[i]!)));
      for (let t = 0; t < mesh.triangles.length; t++) {
        of[root(mesh.triangles[t]!)] = root(mesh.triangles[t - (t % 3)]!);
      }
      return new Set(Array.from(of, (_, i) => root(i))).size;
    };
    // From the middle of the lower side, half way up: still one part, whose border goes in and out.
    expect(
      partsOf(
        cut([
          [0.033, -0.15],
          [0.033, 0],
        ]),
      ),
    ).toBe(1);
    expect(
      partsOf(
        cut([
          [0.033, -0.15],
          [0, 0],
          [0.05, 0.15],
        ]),
      ),
    ).toBe(2);
  });

  it('turns no face over', () => {
    fc.assert(
      fc.property(
        fc.tuple(fc.double({ min: -0.15, max: 0.15, noNaN: true }), fc.double({ min: -0.1, max: 0.1, noNaN: true })),
        fc.tuple(fc.double({ min: -0.15, max: 0.15, noNaN: true }), fc.double({ min: -0.1, max: 0.1, noNaN: true })),
        fc.constantFrom(...WEAVES),
        (from, to, weave) => {
          const shape = patternOf([line([from, to], { kind: 'slit' })], { weave });
          if (Math.hypot(from[0] - to[0], from[1] - to[1]) < 0.003) return;
          expect(patternProblem(shape)).toBeUndefined();
          expect(smallestAngle(patternMesh(shape))).toBeGreaterThan(0);
        },
      ),
      { numRuns: 25 },
    );
  });
});

describe('lines that cannot be had', () => {
  const said = (...lines: PatternLine[]) => patternProblem(patternOf(lines))?.message;
  it('are refused with what is wrong', () => {
    expect(
      said(
        line([
          [0, 0],
          [0, 0.0001],
        ]),
      ),
    ).toContain('line 1 has no length');
    expect(
      said(
        line([
          [0, 0],
          [0.3, 0],
        ]),
      ),
    ).toContain('line 1 crosses the outline');
    expect(
      said(
        line([
          [0.25, 0],
          [0.3, 0],
        ]),
      ),
    ).toContain('line 1 lies outside');
    expect(
      said(
        line([
          [-0.1, 0],
          [0.1, 0],
        ]),
        line([
          [0, -0.1],
          [0, 0.1],
        ]),
      ),
    ).toContain('line 1 crosses line 2');
    expect(
      said(
        line([
          [-0.1, 0],
          [0.1, 0],
          [0.1, 0.1],
          [0, -0.1],
        ]),
      ),
    ).toContain('line 1 crosses itself');
    const holed = patternOf(
      [
        line([
          [-0.1, 0],
          [0.1, 0],
        ]),
      ],
      { holes: [discNodes(0.05)] },
    );
    expect(patternProblem(holed)?.message).toContain('line 1 crosses a hole');
    expect(
      said(
        line([
          [-0.2, -0.1],
          [0.2, 0.1],
        ]),
      ),
    ).toBeUndefined();
    // From the hole to the border.
    const spoke = patternOf(
      [
        line([
          [0.05, 0],
          [0.2, 0],
        ]),
      ],
      { holes: [discNodes(0.05)] },
    );
    expect(patternProblem(spoke)).toBeUndefined();
    expect(patternMesh(spoke).triangles.length).toBeGreaterThan(100);
  });
});

describe('editing', () => {
  const base = () =>
    patternOf([
      line(
        [
          [-0.1, 0],
          [0.1, 0.05],
        ],
        { id: 'l', fold: 1 },
      ),
    ]);

  it('adds, curves and removes nodes of a line; with one node left it goes', () => {
    const shape = base();
    const piece = shape.pieces[0]!;
    const [first, last] = piece.lines[0]!.nodes.map(({ id }) => id) as [string, string];
    const added = addNode(piece, first, 0.5)!;
    expect(piece.lines[0]!.nodes.map(({ at }) => at)).toEqual([
      [-0.1, 0],
      [0, 0.025],
      [0.1, 0.05],
    ]);
    setCurved(piece, added, true);
    expect(piece.lines[0]!.nodes[1]!.before).not.toBeNull();
    setCurved(piece, last, true);
    expect(patternProblem(shape)?.message).toBeUndefined();
    removeNodes(shape, 'p', [added]);
    expect(piece.lines[0]!.nodes).toHaveLength(2);
    removeNodes(shape, 'p', [last]);
    expect(piece.lines).toEqual([]);
  });

  it('goes along into a mirror, and on where a half is opened', () => {
    const mirrored = mirroredPiece(base().pieces[0]!, 'Other');
    expect(mirrored.lines[0]!.nodes.map(({ at }) => at[0]).sort()).toEqual([-0.1, 0.1]);
    expect(mirrored.lines[0]!.fold).toBe(1);
    const half = patternOf([
      line(
        [
          [0, 0],
          [0.2, 0.02],
        ],
        { id: 'l' },
      ),
      line(
        [
          [0, 0.1],
          [0.1, 0.1],
        ],
        { id: 'm' },
      ),
    ]);
    unfoldPiece(half, 'p', 'n1');
    const [through, own, other] = half.pieces[0]!.lines;
    expect(through!.nodes.map(({ at }) => at[0])).toEqual([0, 0.2, expect.closeTo(0.4, 9)]);
    expect([own, other].map((one) => one!.nodes.map(({ at }) => Math.round(at[0] * 1000)))).toEqual([
      [0, 100],
      [300, 400],
    ]);
    expect(patternProblem(half)).toBeUndefined();
  });
});
