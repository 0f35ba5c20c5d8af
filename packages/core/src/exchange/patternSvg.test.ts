import { describe, expect, test } from 'vitest';
import { asPolygon } from '../mesh/outline/path';
import { discNodes, makePiece, newNode, rectangleNodes } from '../pattern/makePiece';
import { suitablePleats } from '../pattern/pleatRow';
import { lineSchema, type Piece } from '../pattern/schema';
import { readSvg } from './import/svg/readSvg';
import { patternSvg } from './patternSvg';

const panel = (name: string, width: number, height: number, more: Partial<Piece> = {}): Piece =>
  makePiece({
    ...{ id: name, name },
    outline: rectangleNodes(width, height).map((node, i) => ({ ...node, id: `${name}${i}` })),
    ...more,
  });
const side = (piece: string, i: number) => ({ piece, from: `${piece}${i}`, to: `${piece}${(i + 1) % 4}` });

/** Corners of an outline around the middle of what it covers. */
function aroundMiddle(nodes: Piece['outline']): number[][] {
  const places = asPolygon(nodes, 24);
  const middle = [0, 1].map((axis) => {
    const values = places.map((place) => place[axis]!);
    return (Math.min(...values) + Math.max(...values)) / 2;
  });
  return nodes.map(({ at }) => at.map((value, axis) => value - middle[axis]!));
}

describe('a pattern as a drawing', () => {
  const front = panel('front', 0.4, 0.5, { name: 'Front & back', holes: [discNodes(0.1, [0.05, 0.1])] });
  const round = makePiece({ id: 'round', name: 'Round', outline: discNodes(0.6, [3, -2]) });
  const other = panel('other', 1.2, 0.3, { grain: 0.3 });
  const seams = [{ id: 's', a: side('front', 0), b: side('other', 1), turned: false }];
  const drawing = patternSvg({ pieces: [front, round, other], seams }, 'Cart hood <large>');

  test('comes back as the same pieces, in their size, with their holes and curves', () => {
    const { outlines } = readSvg(drawing);
    expect(outlines).toHaveLength(3);
    for (const [i, piece] of [front, round, other].entries()) {
      const found = outlines[i]!;
      expect(found.holes).toHaveLength(piece.holes.length);
      expect(found.outline).toHaveLength(piece.outline.length);
      const [wanted, got] = [piece.outline, found.outline].map(aroundMiddle);
      // As a set: a reader may go round the other way.
      for (const [u, v] of wanted!)
        expect(Math.min(...got!.map(([x, y]) => Math.hypot(x! - u!, y! - v!)))).toBeLessThan(2e-6);
    }
    const reaches = asPolygon(outlines[1]!.outline, 40).map(([u, v]) => Math.hypot(u, v));
    expect(Math.max(...reaches) - Math.min(...reaches)).toBeLessThan(2e-4);
  });

  test('has creases and the folds of pleats in dashes, which come back as creases, and slits as cuts', () => {
    const piece = panel('Flap', 0.6, 0.4);
    piece.pleats = suitablePleats(piece, 'Flap2', 'knife');
    const slit = lineSchema.parse({ id: 'l', kind: 'slit', nodes: [newNode([-0.02, 0]), newNode([-0.01, 0.1])] });
    const sheet = patternSvg({ pieces: [piece, { ...panel('Plain', 0.3, 0.3), lines: [slit] }], seams: [] }, 'Flaps');
    const { outlines, leftOut } = readSvg(sheet);
    expect(outlines.map(({ lines }) => lines.length)).toEqual([2 * piece.pleats.count, 0]);
    expect(leftOut).toContain('5 × an open path');
  });

  test('has its pieces apart from each other, each by its name, and seams by their numbers on both sides', () => {
    expect(drawing).toContain('id="Front &amp; back"');
    expect(drawing).toContain('<title>Cart hood &lt;large&gt;</title>');
    expect(drawing.match(/>1<\/text>/g)).toHaveLength(2);
    const { outlines } = readSvg(drawing);
    const boxes = outlines.map(({ outline, middle: [u, v] }) => {
      const places = asPolygon(outline);
      const [us, vs] = [places.map(([x]) => x + u), places.map(([, y]) => y + v)];
      return [Math.min(...us), Math.max(...us), Math.min(...vs), Math.max(...vs)] as const;
    });
    boxes.forEach((a, i) =>
      boxes.slice(i + 1).forEach((b) => {
        expect(a[1] < b[0] || b[1] < a[0] || a[3] < b[2] || b[3] < a[2]).toBe(true);
      }),
    );
  });
});
