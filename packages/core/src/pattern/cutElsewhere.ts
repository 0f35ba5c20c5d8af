import { cutKey, cutPiece, isCut, type CutPiece } from './cutPiece';
import { sewnAsFolded } from './sewAsFolded';
import { sideCounts } from './sideCounts';
import type { Pattern } from './schema';

/** Pieces of a pattern that have not been cut here yet: those to be asked of a worker, so that the page need not wait for them. */
export function uncutPieces(given: Pattern): string[] {
  const pattern = sewnAsFolded(given);
  const counts = sideCounts(pattern);
  return pattern.pieces.filter((piece) => !isCut(cutKey(piece, pattern, counts))).map(({ id }) => id);
}

/** Cuts pieces of a pattern, each with what to remember it by. */
export function cutPieces(given: Pattern, ids: readonly string[]): [key: string, cut: CutPiece][] {
  const pattern = sewnAsFolded(given);
  const counts = sideCounts(pattern);
  return pattern.pieces
    .filter(({ id }) => ids.includes(id))
    .map((piece) => [cutKey(piece, pattern, counts), cutPiece(piece, pattern, counts)]);
}
