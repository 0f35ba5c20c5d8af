import { describe, expect, it } from 'vitest';
import { closedSeams } from '../mesh/closeSeams';
import { isClosed, topology } from '../mesh/topology';
import { createCloth, createShot } from '../shot/create';
import { edit, undo } from '../shot/edit';
import { carryPoints } from '../shot/selectPoints';
import { carryMask } from '../shot/carryMask';
import type { PatternShape } from '../shot/shapes';
import { SHAPES, shapeMesh } from '../shot/shapes';
import { autoSeam, beginTogether } from './autoSeam';
import { isCut, cutKey, rememberCut } from './cutPiece';
import { cutPieces, uncutPieces } from './cutElsewhere';
import { sizeOfPiece } from './describePattern';
import {
  addNode,
  easeOf,
  freeSides,
  mirroredPiece,
  removeNodes,
  removePiece,
  setCurved,
  setSideLength,
  sew,
  unfoldPiece,
} from './editPattern';
import { flatLayout } from './flatLayout';
import { patternFromSheet } from './fromSheet';
import { layPlace } from './layPiece';
import { stretchesOf } from './chosenStretches';
import { discNodes, makePiece, newNode, polygonNodes, rectangleNodes } from './makePiece';
import { patternMesh } from './patternMesh';
import { patternProblem } from './patternProblem';
import type { Pattern, Piece } from './schema';
import { pairsOfSeams } from './seamLines';
import { sideCounts } from './sideCounts';
import { findStretch } from './stretches';

/** A rectangle whose nodes are called after it: lower left, lower right, upper right, upper left. */
function rectangle(name: string, width: number, height: number, more: Partial<Piece> = {}): Piece {
  const outline = rectangleNodes(width, height).map((node, i) => ({ ...node, id: `${name}${i}` }));
  return makePiece({ id: name, name, outline, ...more });
}
const side = (piece: string, i: number) => ({ piece, from: `${piece}${i}`, to: `${piece}${(i + 1) % 4}` });
const patternOf = (pieces: Piece[], seams: Pattern['seams'] = [], spacing = 0.05): PatternShape => ({
  ...{ kind: 'pattern', spacing, weave: 'all directions', pieces, seams: [...seams], closing: 24 },
});

/** Front and back of a bag, open at its top. */
function bag(): PatternShape {
  const back = rectangle('b', 0.4, 0.5, { position: [0, 0, -0.1], rotation: [0, Math.PI, 0] });
  const seams = [
    [side('f', 0), side('b', 0)],
    [side('f', 1), side('b', 3)],
    [side('f', 3), side('b', 1)],
  ].map(([a, b], i) => ({ id: `s${i}`, a: a!, b: b!, turned: false }));
  return patternOf([rectangle('f', 0.4, 0.5, { position: [0, 0, 0.1] }), back], seams);
}

describe('seams', () => {
  it('have as many points on both sides, which meet in order', () => {
    const shape = patternOf(
      [rectangle('f', 0.4, 0.5), rectangle('b', 0.4, 0.7)],
      [{ id: 's', a: side('f', 1), b: side('b', 3), turned: false }],
    );
    const counts = sideCounts(shape);
    expect(counts.get('f 0 1')).toBe(counts.get('b 0 3'));
    // 12 pieces for 0.5 and 0.7 m at 5 cm: their mean.
    expect(counts.get('f 0 1')).toBe(12);
    const mesh = patternMesh(shape);
    const [pairs] = pairsOfSeams(shape);
    expect(pairs).toHaveLength(13);
    const height = (point: number) => mesh.positions[point * 3 + 1]!;
    for (const [a, b] of pairs!) expect(height(b) / 0.7).toBeCloseTo(height(a) / 0.5, 5);
  });

  it('turned, sew beginning to beginning', () => {
    const shape = patternOf(
      [rectangle('f', 0.4, 0.5), rectangle('b', 0.4, 0.5)],
      [{ id: 's', a: side('f', 1), b: side('b', 3), turned: true }],
    );
    const mesh = patternMesh(shape);
    for (const [a, b] of pairsOfSeams(shape)[0]!) {
      expect(mesh.positions[b * 3 + 1]).toBeCloseTo(-mesh.positions[a * 3 + 1]!, 5);
    }
  });

  it('make one surface without a seam of a bag, whose only border is its top', () => {
    const { mesh, pointOf } = closedSeams(patternMesh(bag()))!;
    const t = topology(mesh);
    expect(t.nonManifoldEdges).toBe(0);
    expect(t.flippedEdges).toBe(0);
    expect(t.borderEdges).toBe(16);
    expect(pointOf.length).toBeGreaterThan(mesh.positions.length / 3);
    expect(mesh.cornerMaterial).toHaveLength(mesh.triangles.length * 2);
  });

  it('close a bag that is sewn all around', () => {
    const shape = bag();
    sew(shape, side('f', 2), side('b', 2));
    expect(isClosed(topology(closedSeams(patternMesh(shape))!.mesh))).toBe(true);
  });

  it('of two sides that meet make a cone, none of whose faces closes to nothing', () => {
    const fan = makePiece({
      id: 'p',
      name: 'Fan',
      outline: polygonNodes(3, 0.3).map((node, i) => ({ ...node, id: `p${i}` })),
    });
    const [a, b] = [
      { piece: 'p', from: 'p0', to: 'p1' },
      { piece: 'p', from: 'p1', to: 'p2' },
    ];
    const { mesh } = closedSeams(patternMesh(patternOf([fan], [{ id: 's', a, b, turned: false }], 0.02)))!;
    for (let t = 0; t < mesh.triangles.length; t += 3) expect(new Set(mesh.triangles.subarray(t, t + 3)).size).toBe(3);
  });

  it('sew all of a border to all of another', () => {
    const hole = discNodes(0.1).map((node, i) => ({ ...node, id: `h${i}` }));
    const plate = rectangle('f', 0.5, 0.5, { holes: [hole] });
    const disc = makePiece({
      id: 'd',
      name: 'Disc',
      outline: discNodes(0.1).map((node, i) => ({ ...node, id: `d${i}` })),
    });
    const shape = patternOf(
      [plate, disc],
      [{ id: 's', a: { piece: 'f', from: 'h0', to: 'h0' }, b: { piece: 'd', from: 'd0', to: 'd0' }, turned: false }],
      0.03,
    );
    const t = topology(closedSeams(patternMesh(shape))!.mesh);
    expect(t.nonManifoldEdges).toBe(0);
    expect(t.borderEdges).toBe([0, 1, 2, 3].reduce((sum, i) => sum + sideCounts(shape).get(`f 0 ${i}`)!, 0));
  });

  it('say how much longer one side is', () => {
    expect(easeOf([rectangle('f', 1, 0.5), rectangle('b', 1, 0.6)], { a: side('f', 1), b: side('b', 3) })).toBeCloseTo(
      0.2,
      6,
    );
  });

  it('keep to 3 and to 400 points: both sides get as many', () => {
    const shape = patternOf(
      [rectangle('f', 0.01, 0.01), rectangle('b', 1, 4)],
      [{ id: 's', a: side('f', 1), b: side('b', 3), turned: false }],
      0.01,
    );
    const counts = sideCounts(shape);
    expect(counts.get('f 0 1')).toBe(counts.get('b 0 3'));
    expect(() => patternMesh(shape)).not.toThrow();
  });
});

describe('auto seam', () => {
  it('sews a bag, with every seam as it lies', () => {
    const shape = { ...bag(), seams: [] };
    const found = autoSeam(shape, 0.25);
    expect(found).toHaveLength(4);
    expect(found.every(({ turned }) => !turned)).toBe(true);
    expect(found[0]!.apart).toBeCloseTo(0.2, 6);
    expect(autoSeam(shape, 0.1)).toHaveLength(0);
  });

  it('leaves the sides of one flat piece alone, and closes a tube that is laid round', () => {
    const flat = rectangle('f', 0.4, 0.05);
    expect(autoSeam(patternOf([flat]), 0.1)).toEqual([]);
    const tube = rectangle('t', 0.4, 0.3, { lies: 'round upright', radius: 0.4 / (2 * Math.PI) });
    expect(autoSeam(patternOf([tube]), 0.01)).toMatchObject([{ turned: false }]);
  });

  it('makes one seam of sides that go on smoothly, and two at a corner', () => {
    const front = makePiece({ name: 'Front', outline: discNodes(0.2) });
    const back = {
      ...mirroredPiece(front, 'Back'),
      position: [0, 0, -0.05] as Piece['position'],
      rotation: [0, 0, 0] as Piece['rotation'],
    };
    const found = autoSeam(patternOf([front, back]), 0.1);
    expect(found.length).toBeLessThan(4);
    expect(found.every(({ a, b }) => a.from !== a.to && b.from !== b.to)).toBe(true);
    expect(autoSeam({ ...bag(), seams: [] }, 0.25)).toHaveLength(4);
  });

  it('sews twelve panels of a frame, each to its neighbours', () => {
    const pieces = Array.from({ length: 12 }, (_, i) =>
      rectangle(`p${i}`, 0.2, 1, { position: [i * 0.2 + 0.1, 0, 0] as Piece['position'] }),
    );
    expect(autoSeam(patternOf(pieces), 0.01)).toHaveLength(11);
  });

  it('tells how two stretches lie to each other', () => {
    const { pieces } = bag();
    expect(beginTogether(pieces, side('f', 1), side('b', 3))).toBe(false);
    expect(beginTogether([pieces[0]!, { ...pieces[1]!, rotation: [0, 0, 0] }], side('f', 1), side('b', 1))).toBe(true);
  });
});

describe('pieces', () => {
  it('keep their lengths when they are laid round', () => {
    const lay = layPlace(
      rectangle('f', 1, 1, { lies: 'round level', radius: 0.3, position: [1, 2, 3], rotation: [0.3, 0.2, 0.1] }),
    );
    let length = 0;
    for (let i = 0; i < 400; i++) {
      const [a, b] = [lay(0.1, i / 800), lay(0.1, (i + 1) / 800)];
      length += Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
    }
    expect(length).toBeCloseTo(0.5, 5);
    expect(lay(0, 0)).toEqual([1, 2, 3]);
  });

  it('are counter-clockwise, their holes clockwise, whichever way they were drawn', () => {
    const clockwise = rectangleNodes(0.2, 0.1).reverse();
    const made = makePiece({ name: 'x', outline: clockwise, holes: [discNodes(0.02)] });
    const t = topology(patternMesh(patternOf([made], [], 0.02)));
    expect(t.flippedEdges).toBe(0);
    expect(made.outline.map(({ id }) => id)).toEqual(clockwise.map(({ id }) => id).reverse());
  });

  it('have their material coordinates along the grain', () => {
    const upright = patternMesh(patternOf([rectangle('f', 0.2, 0.1, { grain: Math.PI / 2 })]));
    const [us, vs] = [0, 1].map((axis) => upright.material!.filter((_, i) => i % 2 === axis)) as [
      Float32Array,
      Float32Array,
    ];
    expect(Math.max(...us)).toBeCloseTo(0.1, 6);
    expect(Math.max(...vs)).toBeCloseTo(0.2, 6);
  });

  it('are doubled, mirrored, opened and measured', () => {
    const half = makePiece({
      ...{ id: 'half', name: 'Half' },
      outline: [
        [0, 0],
        [0.3, 0.1],
        [0.2, 0.5],
        [0, 0.5],
      ].map(([u, v], i) => ({ id: `h${i}`, at: [u!, v!] as [number, number], before: null, after: null })),
    });
    const shape = patternOf([{ ...half, outline: [...half.outline] }]);
    const { area } = sizeOfPiece(half);
    unfoldPiece(shape, half.id, 'h3');
    expect(sizeOfPiece(shape.pieces[0]!).area).toBeCloseTo(2 * area, 9);
    expect(sizeOfPiece(shape.pieces[0]!).width).toBeCloseTo(0.6, 9);
    expect(patternProblem(shape)).toBeUndefined();
    const other = mirroredPiece(half, 'Other');
    expect(sizeOfPiece(other).area).toBeCloseTo(area, 9);
    expect(patternProblem(patternOf([half, other]))).toBeUndefined();
  });

  it('do not overlap where they are laid out flat', () => {
    const pieces = [
      rectangle('a', 1, 0.2),
      rectangle('b', 0.3, 0.6),
      rectangle('c', 0.5, 0.5),
      rectangle('d', 0.2, 0.2),
    ];
    const { at, width, height } = flatLayout(pieces);
    const boxes = pieces.map((piece, i) => {
      const { low, width: w, height: h } = sizeOfPiece(piece);
      const [u, v] = [at[i]![0] + low[0], at[i]![1] + low[1]];
      return { u0: u, v0: v, u1: u + w, v1: v + h };
    });
    boxes.forEach((p, i) =>
      boxes.slice(i + 1).forEach((q) => {
        expect(p.u0 < q.u1 && q.u0 < p.u1 && p.v0 < q.v1 && q.v0 < p.v1).toBe(false);
      }),
    );
    for (const { u0, u1, v0, v1 } of boxes) {
      expect(u0).toBeGreaterThanOrEqual(-width / 2 - 1e-9);
      expect(u1).toBeLessThanOrEqual(width / 2 + 1e-9);
      expect(v0).toBeGreaterThanOrEqual(-height / 2 - 1e-9);
      expect(v1).toBeLessThanOrEqual(height / 2 + 1e-9);
    }
  });
});

describe('changes', () => {
  it('of nodes leave seams where they are, and take those away whose ends go', () => {
    const shape = bag();
    const front = shape.pieces[0]!;
    const before = findStretch(shape.pieces, shape.seams[0]!.a)!.length;
    expect(addNode(front, 'f0', 0.5)).not.toBeNull();
    expect(findStretch(shape.pieces, shape.seams[0]!.a)).toMatchObject({ sides: [0, 1] });
    expect(findStretch(shape.pieces, shape.seams[0]!.a)!.length).toBeCloseTo(before, 9);
    removeNodes(shape, 'f', ['f1']);
    expect(shape.seams.map(({ id }) => id)).toEqual(['s2']);
    removePiece(shape, 'b');
    expect(shape.seams).toEqual([]);
  });

  it('make curves and straight sides of given length', () => {
    const piece = rectangle('f', 0.4, 0.5);
    setSideLength(piece, 'f0', 0.6);
    expect(piece.outline[1]!.at[0]).toBeCloseTo(0.4, 9);
    const { area } = sizeOfPiece(piece);
    setCurved(piece, 'f1', true);
    expect(sizeOfPiece(piece).area).not.toBeCloseTo(area, 3);
    setCurved(piece, 'f1', false);
    expect(sizeOfPiece(piece).area).toBeCloseTo(area, 9);
  });

  it('find stretches among chosen sides', () => {
    const { pieces } = bag();
    const chosen = [
      { piece: 'f', from: 'f0' },
      { piece: 'f', from: 'f1' },
      { piece: 'b', from: 'b3' },
      { piece: 'b', from: 'b0' },
    ];
    expect(stretchesOf(pieces, chosen)).toEqual([
      { piece: 'f', from: 'f0', to: 'f2' },
      { piece: 'b', from: 'b3', to: 'b1' },
    ]);
    // Two sides of a corner are a dart.
    expect(stretchesOf(pieces, chosen.slice(0, 2))).toEqual([side('f', 0), side('f', 1)]);
    expect(freeSides(bag())).toHaveLength(2);
  });

  it('find the lips of a slit, and the legs of a dart, as two stretches each', () => {
    const place = (id: string, u: number, v: number) => ({ ...newNode([u, v]), id });
    const piece = makePiece({
      id: 'p',
      name: 'Piece',
      outline: [
        ...rectangleNodes(0.4, 0.4).map((node, i) => ({ ...node, id: `o${i}` })),
        // Into a dart with a node on each leg, and out of it again.
        ...[place('d0', -0.2, 0.02), place('d1', -0.12, 0.01), place('d2', -0.05, 0)],
        ...[place('d3', -0.12, -0.01), place('d4', -0.2, -0.02)],
      ],
      holes: [[place('s0', 0.1, 0.1), place('s1', 0.1005, 0.05), place('s2', 0.1, 0), place('s3', 0.0995, 0.05)]],
    });
    const chosen = (...from: string[]) => from.map((node) => ({ piece: 'p', from: node }));
    const stretch = (from: string, to: string) => ({ piece: 'p', from, to });
    expect(stretchesOf([piece], chosen('d0', 'd1', 'd2', 'd3'))).toEqual([stretch('d0', 'd2'), stretch('d2', 'd4')]);
    expect(stretchesOf([piece], chosen('s0', 's1', 's2', 's3'))).toEqual([stretch('s0', 's2'), stretch('s2', 's0')]);
    expect(stretchesOf([piece], chosen('s3', 's0'))).toEqual([stretch('s0', 's1'), stretch('s3', 's0')]);
    const outline = piece.outline.map(({ id }) => id);
    expect(stretchesOf([piece], chosen(...outline))).toEqual([stretch('o0', 'o0')]);
    expect(stretchesOf([piece], chosen('o3', 'o0', 'o1'))).toEqual([stretch('o0', 'o2'), stretch('o3', 'd0')]);
  });

  it('carry points and masks within their own piece, wherever it lies among the others', () => {
    const shape = bag();
    const from = patternMesh(shape);
    // Higher, and so, with its grain upright, longer along the warp: the back moves on in material coordinates.
    const wider = { ...shape, pieces: [rectangle('f', 0.4, 0.9), shape.pieces[1]!], spacing: 0.04 };
    const to = patternMesh(wider);
    const back = from.parts![1]!;
    const corner = Array.from({ length: back.count }, (_, i) => back.first + i).find(
      (point) => from.positions[point * 3]! > 0.199 && from.positions[point * 3 + 1]! > 0.249,
    )!;
    const [carried] = carryPoints(from, to, [corner]);
    expect([...to.positions.subarray(carried! * 3, carried! * 3 + 3)].map((v) => Math.round(v * 100) / 100)).toEqual([
      0.2, 0.25, -0.1,
    ]);
    const values = new Uint8Array(from.positions.length / 3);
    values.fill(255, back.first, back.first + back.count);
    const mask = carryMask(from, to, values);
    const [front, other] = to.parts!;
    expect(Math.max(...mask.subarray(front!.first, front!.first + front!.count))).toBe(0);
    expect(Math.min(...mask.subarray(other!.first, other!.first + other!.count))).toBe(255);
  });

  it('of the place of a piece cut nothing anew, nor does undo', () => {
    const cloth = createCloth({ name: 'Bag', shape: bag() });
    const shot = createShot({ name: 'x', things: [cloth] });
    const before = shapeMesh((shot.things[0] as typeof cloth).shape, new Map());
    const { shot: next, edit: made } = edit(shot, 'Move', (draft) => {
      const shape = (draft.things[0] as typeof cloth).shape as PatternShape;
      shape.pieces[0]!.position[0] = 1;
    });
    const moved = (next.things[0] as typeof cloth).shape as PatternShape;
    expect(uncutPieces(moved)).toEqual([]);
    expect(shapeMesh(moved, new Map()).triangles).toEqual(before.triangles);
    expect(uncutPieces((undo(next, made).things[0] as typeof cloth).shape as PatternShape)).toEqual([]);
  });

  it('are cut elsewhere and remembered', () => {
    const shape = patternOf([rectangle('far', 0.333, 0.21)], [], 0.0123);
    expect(uncutPieces(shape)).toEqual(['far']);
    const [[key, cut]] = cutPieces(shape, ['far']) as [[string, ReturnType<typeof cutPieces>[number][1]]];
    rememberCut(key, cut);
    expect(isCut(cutKey(shape.pieces[0]!, shape, sideCounts(shape)))).toBe(true);
  });
});

describe('what is refused, with a sentence', () => {
  const refused = (shape: PatternShape) => SHAPES.pattern.schema.safeParse(shape).error?.issues[0]?.message;
  it.each<[string, PatternShape, RegExp]>([
    [
      'a side in two seams',
      { ...bag(), seams: [...bag().seams, { ...bag().seams[0]!, id: 'again' }] },
      /another seam has already/,
    ],
    [
      'a border with itself',
      { ...bag(), seams: [{ id: 's', a: side('f', 0), b: side('f', 0), turned: false }] },
      /sew a border to itself/,
    ],
    ['a seam of a piece that is gone', { ...bag(), pieces: bag().pieces.slice(0, 1) }, /not there/],
    ['two pieces of one id', patternOf([rectangle('f', 1, 1), rectangle('f', 1, 1)]), /same id/],
    ['a spacing far too fine', patternOf([rectangle('f', 10, 10)], [], 0.001), /more than 400000 points/],
    ['no pieces', patternOf([]), /./],
  ])('%s', (_, shape, message) => {
    expect(refused(shape)).toMatch(message);
  });

  it('more than a document may hold, before it is written into one', () => {
    const pieces = Array.from({ length: 201 }, (_, i) => rectangle(`p${i}`, 0.1, 0.1));
    expect(patternProblem(patternOf(pieces))?.message).toBe('a pattern has at most 200 pieces, not 201');
    const holed = { ...pieces[0]!, holes: Array.from({ length: 201 }, () => discNodes(0.001)) };
    expect(patternProblem(patternOf([holed]))?.message).toBe('“p0” cannot be cut: it has more than 200 holes');
  });

  it('numbers that are none, and places far out', () => {
    const shape = bag();
    shape.pieces[0]!.outline[0]!.at = [NaN, 0];
    expect(refused(shape)).toBeDefined();
    shape.pieces[0]!.outline[0]!.at = [1e6, 0];
    expect(refused(shape)).toBeDefined();
  });

  it('an outline that crosses itself, by its name; nothing is changed', () => {
    const cloth = createCloth({ name: 'Bag', shape: bag() });
    const shot = createShot({ name: 'x', things: [cloth] });
    const cross = () =>
      edit(shot, 'Node', (draft) => {
        const shape = (draft.things[0] as typeof cloth).shape as PatternShape;
        shape.pieces[0]!.outline[0]!.at = [0.5, 0.1];
        shape.pieces[0]!.outline[1]!.at = [-0.5, 0.2];
      });
    expect(cross).toThrow(/“f” cannot be cut: the outline crosses itself/);
  });
});

it('makes a pattern of a sheet that lies where the sheet lies', () => {
  const sheet = { kind: 'sheet', width: 0.6, height: 0.4, spacing: 0.1 } as const;
  const [flat, cut] = [shapeMesh(sheet, new Map()), patternMesh(patternFromSheet(sheet))];
  const rows = (positions: Float32Array) =>
    Array.from({ length: positions.length / 3 }, (_, i) =>
      [...positions.subarray(i * 3, i * 3 + 3)]
        .map((value) => (Math.round(value * 1e4) / 1e4 + 0).toFixed(4))
        .join(' '),
    ).sort();
  expect(rows(cut.positions)).toEqual(rows(flat.positions));
  expect(cut.triangles.length).toBe(flat.triangles.length);
});
