import { crossing } from '../mesh/outline/outlineProblem';
import { isStraight, samplesThrough, sidesOf, type FlatPlace } from '../mesh/outline/path';
import { innerLines, lineStops, type InnerLine } from './innerLines';
import type { Pattern, Piece } from './schema';
import { sideCounts } from './sideCounts';
import { loopsOfPiece, sideKey } from './stretches';

/**
 * Places along the borders of a piece that its mesh has points at, per loop and side; the end of a side is the beginning of the next.
 *
 * @param counts into how many pieces each side is divided
 * @param lines lines on the piece, which have points where they end on a border
 */
export function sampledBorders(
  piece: Piece,
  counts: readonly (readonly number[])[],
  lines: readonly InnerLine[] = innerLines(piece),
): FlatPlace[][][] {
  const stops = lineStops(lines);
  return loopsOfPiece(piece).map((nodes, loop) =>
    sidesOf(nodes).map((side, i) => samplesThrough(side, counts[loop]![i]!, stops.get(`${loop} ${i}`) ?? [])),
  );
}

/**
 * The pieces whose borders cross at the spacing, though they do not as they are drawn: a curve turns more tightly than points lie apart. What lies beyond the
 * crossing has no faces. Straight sides are what they are at any spacing.
 */
export function crossedAtSpacing(pattern: Pattern): Piece[] {
  const curved = pattern.pieces.filter((piece) =>
    loopsOfPiece(piece).some((nodes) => sidesOf(nodes).some((side) => !isStraight(side))),
  );
  if (curved.length === 0) return [];
  const counts = sideCounts(pattern);
  return curved.filter((piece) => {
    const own = loopsOfPiece(piece).map((nodes, loop) => nodes.map((_, i) => counts.get(sideKey(piece.id, loop, i))!));
    const loops = sampledBorders(piece, own).map((sides) => sides.flat());
    return loops.some((one, i) => loops.slice(i).some((other) => crossing(one, other)));
  });
}
