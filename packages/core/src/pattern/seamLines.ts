import { cutPiece } from './cutPiece';
import { seamPairs } from './sewnPoints';
import { sideCounts } from './sideCounts';
import type { Pattern } from './schema';

/** The points that each seam brings together, counted through the mesh of the pattern, by the seam's place in the list. */
export function pairsOfSeams(pattern: Pattern): [number, number][][] {
  const counts = sideCounts(pattern);
  const cuts = pattern.pieces.map((piece) => cutPiece(piece, pattern, counts));
  const firsts: number[] = [];
  let first = 0;
  for (const { places } of cuts) {
    firsts.push(first);
    first += places.length / 2;
  }
  return pattern.seams.map((seam) => seamPairs(seam, pattern, cuts, firsts, counts));
}
