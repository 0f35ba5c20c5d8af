import { makePiece, rectangleNodes } from '../pattern/makePiece';
import type { Piece } from '../pattern/schema';
import type { BakeRun } from './bakeRun';
import type { BakedFrame } from './frame';

// What tests of seams share: rectangles, their sides, and so many frames of a run.

/** A side of a piece whose nodes are called after it. */
export const side = (piece: string, i: number, of = 4) => ({
  piece,
  from: `${piece}${i}`,
  to: `${piece}${(i + 1) % of}`,
});

export function rectangle(id: string, width: number, height: number, more: Partial<Piece> = {}): Piece {
  const outline = rectangleNodes(width, height).map((node, i) => ({ ...node, id: `${id}${i}` }));
  return makePiece({ id, name: id, outline, ...more });
}

export function frames(run: BakeRun, count: number): BakedFrame[] {
  return Array.from({ length: count }, () => run.next());
}
