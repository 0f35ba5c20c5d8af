import { newId } from '../shot/create';
import { cosine, sine } from '../math/trigonometry';
import { reversed, signedArea, asPolygon, type FlatPlace } from '../mesh/outline/path';
import { pieceSchema, type PatternNode, type Piece } from './schema';

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
