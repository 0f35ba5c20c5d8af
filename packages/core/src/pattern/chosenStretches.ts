import { distance, placeAt, sidesOf, type BorderSide, type FlatPlace } from '../mesh/outline/path';
import type { Piece, Seam } from './schema';
import { loopsOfPiece } from './stretches';

/** A side of a piece, by the node with which it begins. */
export interface SidePlace {
  piece: string;
  from: string;
}

/**
 * The stretches that some sides make up, those that follow each other as one; two sides that meet are two where there is nothing else, and so are sides before and
 * after a tip where the border goes back along itself: the lips of a slit, the legs of a dart.
 */
export function stretchesOf(pieces: readonly Piece[], sides: readonly SidePlace[]): Seam['a'][] {
  const found: Seam['a'][] = [];
  for (const piece of pieces) {
    loopsOfPiece(piece).forEach((nodes, loop) => {
      const own = nodes.map(({ id }) => sides.some(({ piece: of, from }) => of === piece.id && from === id));
      const count = own.filter(Boolean).length;
      if (count === 0) return;
      const all = sidesOf(nodes);
      const before = (i: number) => (i + nodes.length - 1) % nodes.length;
      const tips = all.map((after, i) => turnsBack(all[before(i)]!, after));
      // All around an outline is all of it, however sharp its corners are; all around a slit is both of its lips.
      const isSlit = loop > 0 && tips.filter(Boolean).length === 2;
      const apart = count === 2 && sides.length === 2;
      if (count === nodes.length && !isSlit && !apart) {
        found.push({ piece: piece.id, from: nodes[0]!.id, to: nodes[0]!.id });
        return;
      }
      const begins = (i: number) => own[i] && (!own[before(i)] || tips[i] || apart);
      own.forEach((_, i) => {
        if (!begins(i)) return;
        let end = i + 1;
        while (own[end % nodes.length] && !begins(end % nodes.length)) end++;
        found.push({ piece: piece.id, from: nodes[i]!.id, to: nodes[end % nodes.length]!.id });
      });
    });
  }
  return found;
}

/** How near an end of a side its direction there is taken, as a parameter. */
const NEAR = 0.02;

/** Whether a border goes back along itself where one side ends and the next begins: it turns by more than 120 degrees. */
function turnsBack(before: BorderSide, after: BorderSide): boolean {
  const [arrives, leaves] = [
    [placeAt(before, 1 - NEAR), placeAt(before, 1)],
    [placeAt(after, 0), placeAt(after, NEAR)],
  ].map(([from, to]) => [to![0] - from![0], to![1] - from![1]] as const) as [FlatPlace, FlatPlace];
  const sizes = distance([0, 0], arrives) * distance([0, 0], leaves);
  return arrives[0] * leaves[0] + arrives[1] * leaves[1] < -0.5 * sizes;
}
