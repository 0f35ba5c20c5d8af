import { newId } from '../shot/create';
import { cosine, sine } from '../math/trigonometry';
import { reversed, signedArea, asPolygon, type FlatPlace } from '../mesh/outline/path';
import { linesProblem } from './linesProblem';
import { lineSchema, pieceSchema, type PatternLine, type PatternNode, type Piece } from './schema';

/** How far the handles of a quarter of a circle reach, as a share of its radius: within 0.03 % of round. */
const QUARTER = 0.5522847498;

export function newNode(at: FlatPlace, before: FlatPlace | null = null, after: FlatPlace | null = null): PatternNode {
  return {
    id: newId(),
    at: [at[0], at[1]],
    before: before && [before[0], before[1]],
    after: after && [after[0], after[1]],
  };
}

/** A piece with its outline counter-clockwise and its holes clockwise, so that seams of facing borders run as they lie. */
export function makePiece(given: Partial<Piece> & { name: string; outline: PatternNode[] }): Piece {
  const turned = (nodes: PatternNode[], positive: boolean) =>
    signedArea(asPolygon(nodes)) > 0 === positive ? nodes : reversed(nodes);
  return pieceSchema.parse({
    id: newId(),
    ...given,
    outline: turned(given.outline, true),
    holes: (given.holes ?? []).map((hole) => turned(hole, false)),
  });
}

/** A new crease across the middle of a piece, in the axes of the piece; where one lies already, beside it. */
export function newLine(piece: Piece): PatternLine {
  const places = asPolygon(piece.outline);
  const span = (axis: 0 | 1) => {
    const values = places.map((place) => place[axis]);
    return [Math.min(...values), Math.max(...values)] as const;
  };
  const [[left, right], [low, high]] = [span(0), span(1)];
  const taken = piece.lines.flatMap(({ nodes }) => nodes.map(({ at }) => at[1]));
  let [v, step] = [(low + high) / 2, (high - low) / 12];
  const free = () => taken.every((other) => Math.abs(other - v) > Math.abs(step) / 3);
  for (let i = 0; i < 10 && !free(); i++) {
    v += step;
    step = -Math.sign(step) * (Math.abs(step) + (high - low) / 12);
  }
  const [from, to] = [left + 0.2 * (right - left), right - 0.2 * (right - left)];
  return lineSchema.parse({ id: newId(), nodes: [newNode([from, v]), newNode([to, v])] });
}

/** A piece with those of some lines as creases that can be had, and how many could not. */
export function withCreases(piece: Piece, lines: readonly PatternNode[][]): { piece: Piece; refused: number } {
  let [own, refused] = [piece, 0];
  for (const nodes of lines) {
    const next = { ...own, lines: [...own.lines, lineSchema.parse({ id: newId(), nodes })] };
    if (linesProblem(next)) refused++;
    else own = next;
  }
  return { piece: own, refused };
}

/** Around its middle, in m. */
export function rectangleNodes(width: number, height: number): PatternNode[] {
  const [u, v] = [width / 2, height / 2];
  return (
    [
      [-u, -v],
      [u, -v],
      [u, v],
      [-u, v],
    ] as FlatPlace[]
  ).map((at) => newNode(at));
}

/** Four nodes, in m. */
export function discNodes(radius: number, [u, v]: FlatPlace = [0, 0]): PatternNode[] {
  const h = radius * QUARTER;
  return [
    newNode([u + radius, v], [0, -h], [0, h]),
    newNode([u, v + radius], [h, 0], [-h, 0]),
    newNode([u - radius, v], [0, h], [0, -h]),
    newNode([u, v - radius], [-h, 0], [h, 0]),
  ];
}

/** Even corners on a circle, the lowest side level. */
export function polygonNodes(corners: number, radius: number): PatternNode[] {
  return Array.from({ length: corners }, (_, i) => {
    const angle = -Math.PI / 2 - Math.PI / corners + (2 * Math.PI * (i + 1)) / corners;
    return newNode([radius * cosine(angle), radius * sine(angle)]);
  });
}
