import type { PatternShape } from '../shot/shapes/pattern';
import type { SheetShape } from '../shot/shapes/sheet';
import { makePiece, rectangleNodes } from './makePiece';

/** A sheet as a pattern of one piece, lying where it lies. */
export function patternFromSheet({ width, height, spacing }: SheetShape): PatternShape {
  const piece = makePiece({
    ...{ name: 'Piece 1', outline: rectangleNodes(width, height), grain: 0 },
    rotation: [-Math.PI / 2, 0, 0],
  });
  return { kind: 'pattern', spacing, weave: 'along the grain', pieces: [piece], seams: [], closing: 24 };
}
