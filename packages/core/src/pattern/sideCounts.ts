import { isStraight, sideLength, sidesOf } from '../mesh/outline/path';
import { innerLines, lineStops } from './innerLines';
import { findStretch, loopsOfPiece, sideKey, type StretchPlace } from './stretches';
import type { Pattern } from './schema';

/** Fewest pieces of a curve: fewer would not look round. */
const LEAST_OF_CURVE = 3;

/**
 * Into how many pieces each side is divided, by `sideKey`: even at the spacing, and both sides of a seam into as many altogether.
 */
export function sideCounts({ pieces, seams, spacing }: Pattern): Map<string, number> {
  const counts = new Map<string, number>();
  /** Places on sides where lines end, which have points of their own. */
  const stops = new Map<string, number>();
  for (const piece of pieces) {
    for (const [key, shares] of lineStops(innerLines(piece))) stops.set(`${piece.id} ${key}`, shares.length);
    for (const [loop, nodes] of loopsOfPiece(piece).entries()) {
      for (const [i, side] of sidesOf(nodes).entries()) {
        const key = sideKey(piece.id, loop, i);
        const least = Math.max(
          isStraight(side) ? 1 : LEAST_OF_CURVE,
          nodes.length < 3 ? 2 : 1,
          1 + (stops.get(key) ?? 0),
        );
        counts.set(key, Math.max(least, Math.round(sideLength(side) / spacing)));
      }
    }
  }
  for (const { a, b } of seams) {
    const [one, other] = [findStretch(pieces, a), findStretch(pieces, b)];
    if (!one || !other) continue;
    const least = Math.max(fewest(one, stops), fewest(other, stops));
    const total = Math.max(least, Math.round((one.length + other.length) / 2 / spacing));
    for (const stretch of [one, other]) divide(stretch, total, counts, stops);
  }
  return counts;
}

function fewest(stretch: StretchPlace, stops: ReadonlyMap<string, number>): number {
  return stretch.sides.reduce((sum, side) => sum + fewestOf(stretch, side, stops), 0);
}

function fewestOf({ piece, loop }: StretchPlace, side: number, stops: ReadonlyMap<string, number>): number {
  const own = sidesOf(loopsOfPiece(piece)[loop]!)[side]!;
  return Math.max(isStraight(own) ? 1 : LEAST_OF_CURVE, 1 + (stops.get(sideKey(piece.id, loop, side)) ?? 0));
}

/** Shares a number of pieces out over the sides of a stretch by their lengths, each at least its fewest; what is left goes to the largest remainders. */
function divide(
  stretch: StretchPlace,
  total: number,
  counts: Map<string, number>,
  stops: ReadonlyMap<string, number>,
): void {
  const { piece, loop, sides, length } = stretch;
  const all = sidesOf(loopsOfPiece(piece)[loop]!);
  const parts = sides.map((side) => {
    const least = fewestOf(stretch, side, stops);
    const wanted = (total * sideLength(all[side]!)) / length;
    return { side, least, wanted, count: Math.max(least, Math.floor(wanted)) };
  });
  let left = total - parts.reduce((sum, { count }) => sum + count, 0);
  while (left !== 0) {
    const step = left > 0 ? 1 : -1;
    const free = parts.filter(({ count, least }) => step > 0 || count > least);
    const next = free.reduce((best, part) =>
      step * (part.wanted - part.count) > step * (best.wanted - best.count) ? part : best,
    );
    next.count += step;
    left -= step;
  }
  for (const { side, count } of parts) counts.set(sideKey(piece.id, loop, side), count);
}
