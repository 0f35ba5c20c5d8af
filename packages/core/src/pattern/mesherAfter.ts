import { cutKey } from './cutPiece';
import { sewnAsFolded } from './sewAsFolded';
import { sideCounts } from './sideCounts';
import type { Mesher, Pattern } from './schema';

/** Which mesher a pattern has after a change: the one it had, for as long as no piece is cut otherwise. What it names points by is carried over then anyway. */
export function mesherAfter(before: Pattern, after: Pattern): Mesher | undefined {
  if (before.mesher === undefined || after.mesher === undefined) return after.mesher;
  const [old, now] = [before, after].map(cutsOf) as [string, string];
  return old === now ? after.mesher : undefined;
}

/** All that decides how the pieces of a pattern are cut, as text. */
function cutsOf(given: Pattern): string {
  const pattern = sewnAsFolded(given);
  const counts = sideCounts(pattern);
  return JSON.stringify(pattern.pieces.map((piece) => [piece.id, cutKey(piece, pattern, counts)]));
}
