import { cutPiece } from './cutPiece';
import { sewnAsFolded } from './sewAsFolded';
import { seamPairs } from './sewnPoints';
import { sideCounts } from './sideCounts';
import type { Pattern } from './schema';

/** The points that each seam brings together, counted through the mesh of the pattern, by the seam's place in the list. */
export function pairsOfSeams(given: Pattern): [number, number][][] {
  const pattern = sewnAsFolded(given);
  const counts = sideCounts(pattern);
  const cuts = pattern.pieces.map((piece) => cutPiece(piece, pattern, counts));
  const firsts: number[] = [];
  let first = 0;
  for (const { places } of cuts) {
    firsts.push(first);
    first += places.length / 2;
  }
  const pairs = new Map<string, [number, number][]>();
  for (const seam of pattern.seams) {
    pairs.set(seam.id, [...(pairs.get(seam.id) ?? []), ...seamPairs(seam, pattern, cuts, firsts, counts)]);
  }
  return given.seams.map(({ id }) => pairs.get(id)!);
}
