import { describe, expect, it } from 'vitest';
import { innerLines } from '../../../pattern/innerLines';
import { makePiece, newNode, withCreases } from '../../../pattern/makePiece';
import { areaOf } from '../../../pattern/patternProblem';
import { ReadError } from '../../readError';
import { readSvg } from './readSvg';

/** Areas of what is found in a drawing, in mm², without holes. */
function areas(text: string): number[] {
  return readSvg(text).outlines.map(({ name, outline, holes }) => areaOf(makePiece({ name, outline, holes })) * 1e6);
}
const page = (inner: string, attributes = 'width="200mm" height="100mm" viewBox="0 0 200 100"') =>
  `<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inner}</svg>`;
const PX = 25.4 / 96;

describe('areas of what is drawn, within 0.1 %', () => {
  it.each<[string, string, number[]]>([
    ['a rectangle', page('<rect x="10" y="10" width="50" height="80"/>'), [4000]],
    ['round corners', page('<rect width="50" height="30" rx="5"/>'), [1500 - (4 - Math.PI) * 25]],
    ['corners of two radii', page('<rect width="50" height="30" rx="10" ry="5"/>'), [1500 - (4 - Math.PI) * 50]],
    ['a circle', page('<circle cx="50" cy="50" r="20"/>'), [Math.PI * 400]],
    ['an ellipse', page('<ellipse cx="50" cy="50" rx="30" ry="10"/>'), [Math.PI * 300]],
    ['a polygon', page('<polygon points="0,0 40,0 40,30"/>'), [600]],
    ['a closed polyline', page('<polyline points="0 0 40 0 40 30 0 0"/>'), [600]],
    ['relative commands', page('<path d="m10 10 h30 v20 h-30 z"/>'), [600]],
    ['absolute commands', page('<path d="M10 10 H40 V30 L10 30 Z"/>'), [600]],
    ['a quadratic curve', page('<path d="M0 0h30v40q-15 20 -30 0z"/>'), [1400]],
    ['its smooth successor', page('<path d="M0 20 Q10 0 20 20 T40 20 V60 H0 Z"/>'), [1600]],
    ['a cubic curve', page('<path d="M0 0 C0 40 60 40 60 0 Z"/>'), [1440]],
    ['its smooth successor too', page('<path d="M0 20 C0 0 20 0 20 20 S40 40 40 20 V60 H0 Z"/>'), [1600]],
    ['arcs', page('<path d="M20 0 A20 20 0 0 1 20 40 Z"/>'), [Math.PI * 200]],
    ['several paths in one', page('<path d="M0 0h10v10h-10z M50 0h10v20h-10z"/>'), [100, 200]],
    ['a hole', page('<rect width="60" height="60"/><circle cx="30" cy="30" r="10"/>'), [3600 - Math.PI * 100]],
    [
      'a piece within a hole',
      page(
        '<rect width="60" height="60"/><rect x="10" y="10" width="40" height="40"/><rect x="20" y="20" width="20" height="20"/>',
      ),
      [2000, 400],
    ],
    [
      'transforms',
      page('<g transform="scale(2) rotate(30)"><rect width="10" height="10" transform="skewX(20)"/></g>'),
      [400],
    ],
    ['a matrix', page('<rect width="10" height="10" transform="matrix(0 3 -2 0 50 50)"/>'), [600]],
    ['pixels', page('<rect width="100" height="50"/>', ''), [100 * PX * 50 * PX]],
    ['units of their own', page('<rect width="1in" height="2cm"/>', ''), [25.4 * 20]],
    [
      'a page in inches',
      page('<rect width="5" height="10"/>', 'width="2in" height="1in" viewBox="0 0 20 10"'),
      [5 * 2.54 * (10 * 2.54)],
    ],
    ['shares of the page', page('<ellipse cx="50%" cy="50%" rx="10%" ry="20%"/>'), [Math.PI * 20 * 20]],
    ['exponents and no spaces', page('<path d="M1e1-1e1h2E1v20h-20z"/>'), [400]],
  ])('%s', (_, text, wanted) => {
    const found = areas(text);
    expect(found).toHaveLength(wanted.length);
    found.forEach((area, i) => expect(Math.abs(area / wanted[i]! - 1)).toBeLessThan(1e-3));
  });
});

it('keeps names, and where outlines lie in the drawing, v up', () => {
  const { outlines } = readSvg(page('<rect id="Front" x="10" y="10" width="20" height="20"/>'));
  expect(outlines[0]!.name).toBe('Front');
  expect(outlines[0]!.middle[0]).toBeCloseTo(0.02, 9);
  expect(outlines[0]!.middle[1]).toBeCloseTo(-0.02, 9);
});

it('takes open paths in dashes as creases of the outline that they lie in', () => {
  const { outlines, leftOut } = readSvg(
    page(
      '<rect id="Back" width="100" height="80"/><rect id="Pocket" x="10" y="10" width="30" height="30" style="fill:none"/>' +
        '<rect id="Side" x="120" width="50" height="80"/>' +
        '<line x1="50" y1="0" x2="50" y2="80" stroke-dasharray="4 2"/>' +
        '<path d="M120 40C130 60 160 60 170 40" style="stroke:#000;stroke-dasharray:3,1"/>' +
        '<path d="M130 10L160 10" stroke-dasharray="none"/><line x1="110" y1="0" x2="112" y2="80" stroke-dasharray="2"/>',
    ),
  );
  expect(leftOut).toEqual(['an open path', 'a dashed line outside of the outlines']);
  const [back, side] = outlines;
  expect(outlines).toHaveLength(2);
  expect(back!.lines).toHaveLength(1);
  expect(back!.lines[0]!.map(({ at }) => at.map((value) => Math.round(value * 1e6)))).toEqual([
    [0, 40_000],
    [0, -40_000],
  ]);
  expect(side!.lines[0]![0]!.after).not.toBeNull();
  const piece = makePiece({ name: 'x', outline: side!.outline });
  const made = withCreases(piece, [...side!.lines, [newNode([-1, 0]), newNode([1, 0])]]);
  expect(made).toMatchObject({ refused: 1, piece: { lines: [{ kind: 'crease', fold: 0 }] } });
  expect(innerLines(made.piece)[0]!.ends.every((end) => end !== null)).toBe(true);
});

it('says what is left out', () => {
  const { leftOut } = readSvg(
    page(
      '<rect width="9" height="9"/><text>front</text><image/><path d="M0 0L9 9"/><path d="M0 0L9 9"/><line/><rect width="0" height="3"/>' +
        '<g display="none"><rect width="9" height="9"/></g><defs><rect width="9" height="9"/></defs><use/><path d="M 0 zz"/>',
    ),
  );
  expect(leftOut).toEqual([
    ...['<text>', '<image>', '2 × an open path', 'a line', '<rect> without a size', 'something hidden', '<use>'],
    '<path> that cannot be read',
  ]);
});

describe('drawings that cannot be used say why', () => {
  const many = Array.from({ length: 5000 }, (_, i) => `L${Math.cos(i / 800) * 50} ${Math.sin(i / 800) * 50}`).join('');
  it.each<[string, string, RegExp]>([
    ['no XML', 'hello', /not a whole SVG file/],
    ['half a file', '<svg><g>', /not a whole SVG file/],
    ['another file', '<html/>', /no <svg>/],
    ['nothing in it', page(''), /no closed outline/],
    ['numbers that are none', page('<path d="M0 0 L NaN 3 z"/>'), /no closed outline.*cannot be read/],
    ['a place far out', page('<path d="M0 0 L1e9 0 L0 1e9 z"/>'), /cannot be read/],
    ['no area', page('<path d="M0 0 L10 0 L20 0 z"/>'), /no closed outline/],
    ['far too many nodes', page(`<path d="M50 0${many}z"/>`), /more than 2000 nodes/],
    ['only open paths', page('<path d="M0 0 L10 10 L20 0"/>'), /an open path/],
  ])('%s', (_, text, message) => {
    expect(() => readSvg(text)).toThrow(ReadError);
    expect(() => readSvg(text)).toThrow(message);
  });
});
