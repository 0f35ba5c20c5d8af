import {
  controlsOf,
  isStraight,
  placeAt,
  sideLength,
  sidesOf,
  type BorderSide,
  type FlatPlace,
} from '../mesh/outline/path';
import { innerLines } from '../pattern/innerLines';
import { flatLayout } from '../pattern/flatLayout';
import type { Pattern, Piece, Stretch } from '../pattern/schema';
import { findStretch, loopsOfPiece } from '../pattern/stretches';
import { escapeMarkup } from './escapeMarkup';

/** Room around the pieces, and sizes of what is written and drawn beside their borders, in mm. */
const MARGIN = 20;
const TEXT = 8;
const GRAIN = 40;
const NOTCH = 6;

/**
 * A pattern as a drawing in its true size (SVG 1.1, mm): pieces side by side as paths to be cut, slits too, each with its name and an arrow along the grain,
 * lines to fold along in dashes, and
 * each seam with its number in the middle of both of its stretches and a notch where they begin. A curve stays the Bézier that it is.
 */
export function patternSvg(pattern: Pick<Pattern, 'pieces' | 'seams'>, title: string): string {
  const { at, width, height } = flatLayout(pattern.pieces);
  const size = [width * 1000 + 2 * MARGIN, height * 1000 + 2 * MARGIN].map(mm);
  // On paper v points down, and the middle of all is in the middle.
  const place =
    ([x, y]: readonly [number, number]) =>
    ([u, v]: FlatPlace): FlatPlace => [(x + u + width / 2) * 1000 + MARGIN, (height / 2 - y - v) * 1000 + MARGIN];
  const places = new Map(pattern.pieces.map((piece, i) => [piece.id, place(at[i]!)]));
  const cut = pattern.pieces.map((piece) => {
    const loops = loopsOfPiece(piece).map((nodes) => loopPath(nodes, places.get(piece.id)!));
    return `<path id="${escapeMarkup(piece.name)}" fill-rule="evenodd" d="${loops.join(' ')}"/>`;
  });
  const within = pattern.pieces.flatMap((piece) =>
    innerLines(piece).map((line) => ({ slit: line.slit, path: openPath(line.sides, places.get(piece.id)!) })),
  );
  const slits = within.filter(({ slit }) => slit).map(({ path }) => `<path d="${path}"/>`);
  const creases = within.filter(({ slit }) => !slit).map(({ path }) => `<path stroke-dasharray="6 3" d="${path}"/>`);
  const names = pattern.pieces.flatMap((piece) => grainMarks(piece, places.get(piece.id)!));
  const seams = pattern.seams.flatMap(({ a, b, turned }, i) => [
    ...seamMarks(pattern.pieces, a, i + 1, places, false),
    // As pieces face each other the beginning of one meets the end of the other.
    ...seamMarks(pattern.pieces, b, i + 1, places, !turned),
  ]);
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${size[0]}mm" height="${size[1]}mm" viewBox="0 0 ${size[0]} ${size[1]}">`,
    `<title>${escapeMarkup(title)}</title>`,
    '<g fill="none" stroke="#000000" stroke-width="0.5">',
    ...cut,
    ...slits,
    '</g>',
    `<g fill="none" stroke="#2d4a7c" stroke-width="0.4" font-family="sans-serif" font-size="${TEXT}" text-anchor="middle">`,
    ...creases,
    ...names,
    ...seams,
    '</g>',
    '</svg>',
    '',
  ].join('\n');
}

/** A number of mm, to a thousandth of one. */
function mm(value: number): string {
  return String(Math.round(value * 1000) / 1000);
}

function pair([x, y]: FlatPlace): string {
  return `${mm(x)} ${mm(y)}`;
}

function loopPath(nodes: Piece['outline'], place: (at: FlatPlace) => FlatPlace): string {
  return `${openPath(sidesOf(nodes), place)} Z`;
}

function openPath(sides: readonly BorderSide[], place: (at: FlatPlace) => FlatPlace): string {
  const steps = sides.map((side) => {
    const [, first, second, end] = controlsOf(side);
    if (isStraight(side)) return `L ${pair(place(end))}`;
    return `C ${[first, second, end].map((control) => pair(place(control))).join(', ')}`;
  });
  return `M ${pair(place(sides[0]!.from.at))} ${steps.join(' ')}`;
}

/** The name of a piece, and an arrow along its warp under it. */
function grainMarks(piece: Piece, place: (at: FlatPlace) => FlatPlace): string[] {
  const us = piece.outline.map(({ at }) => at[0]);
  const vs = piece.outline.map(({ at }) => at[1]);
  const [x, y] = place([(Math.min(...us) + Math.max(...us)) / 2, (Math.min(...vs) + Math.max(...vs)) / 2]);
  const [c, s] = [Math.cos(piece.grain), -Math.sin(piece.grain)];
  const along = (share: number, aside = 0) =>
    pair([x + GRAIN * (share * c - aside * s), y + GRAIN * (share * s + aside * c)]);
  return [
    `<path d="M ${along(-0.5)} L ${along(0.5)} M ${along(0.38, 0.06)} L ${along(0.5)} L ${along(0.38, -0.06)}"/>`,
    text([x, y - GRAIN / 2 - TEXT], piece.name),
  ];
}

function text([x, y]: FlatPlace, words: string): string {
  return `<text x="${mm(x)}" y="${mm(y)}" fill="#2d4a7c" stroke="none">${escapeMarkup(words)}</text>`;
}

/** The number of a seam inside of the middle of a stretch, and a notch across its border where it begins. */
function seamMarks(
  pieces: readonly Piece[],
  stretch: Stretch,
  number: number,
  places: ReadonlyMap<string, (at: FlatPlace) => FlatPlace>,
  fromEnd: boolean,
): string[] {
  const found = findStretch(pieces, stretch);
  if (!found) return [];
  const place = places.get(stretch.piece)!;
  const all = sidesOf(loopsOfPiece(found.piece)[found.loop]!);
  const sides = found.sides.map((side) => all[side]!);
  // Where it is a share of the way along the stretch, and which way it goes there.
  const at = (share: number): [here: FlatPlace, way: FlatPlace] => {
    let rest = share * found.length;
    const side = sides.find((one, i) => {
      const length = sideLength(one);
      if (rest <= length || i === sides.length - 1) return true;
      rest -= length;
      return false;
    })!;
    const t = Math.min(1, rest / sideLength(side));
    const [from, to] = [Math.max(0, t - 1e-3), Math.min(1, t + 1e-3)].map((one) => place(placeAt(side, one)));
    const length = Math.hypot(to![0] - from![0], to![1] - from![1]) || 1;
    return [place(placeAt(side, t)), [(to![0] - from![0]) / length, (to![1] - from![1]) / length]];
  };
  const aside = ([[x, y], [dx, dy]]: [FlatPlace, FlatPlace], by: number): FlatPlace => [x + dy * by, y - dx * by];
  const start = at(fromEnd ? 1 - NOTCH / 1000 / found.length : NOTCH / 1000 / found.length);
  const middle = at(0.5);
  const [x, y] = aside(middle, TEXT);
  return [
    `<path d="M ${pair(aside(start, NOTCH / 2))} L ${pair(aside(start, -NOTCH / 2))}"/>`,
    text([x, y + TEXT / 3], String(number)),
  ];
}
