import { distance, isStraight, sideLength, sidesOf } from '../mesh/outline/path';
import { TOUCH } from './innerLines';
import { pleatRow } from './pleatRow';
import { loopsOfPiece, type StretchPlace } from './stretches';

/** A run of a border that is sewn: of one side, from and to a share of its length. */
export interface SewnRun {
  side: number;
  from: number;
  to: number;
  /** In m. */
  length: number;
}

/**
 * What of a stretch of border a seam takes, in order: all of its sides, but of pleats with creases, as they lie, only what is seen from their face. What
 * lies under that is stitched down and not sewn.
 */
export function sewnRuns({ piece, loop, sides }: StretchPlace): SewnRun[] {
  const all = sidesOf(loopsOfPiece(piece)[loop]!);
  const row = loop === 0 ? pleatRow(piece) : null;
  return sides.flatMap((side): SewnRun[] => {
    const own = all[side]!;
    const whole = sideLength(own);
    const unfolded = [{ side, from: 0, to: 1, length: whole }];
    // Where the border is not the line along which pleats lie, they fold it as it comes, and it is sewn so.
    if (!row || !row.sides.includes(side) || !isStraight(own)) return unfolded;
    const { from, along, profile } = row;
    const far = ([u, v]: readonly [number, number]) => (u - from[0]) * along[0] + (v - from[1]) * along[1];
    const [start, end] = [far(own.from.at), far(own.to.at)];
    const onRow = (at: readonly [number, number], s: number) =>
      distance(at, [from[0] + s * along[0], from[1] + s * along[1]]) < TOUCH;
    if (!onRow(own.from.at, start) || !onRow(own.to.at, end)) return unfolded;
    return profile.seen.flatMap(([first, last]): SewnRun[] => {
      const [a, b] = [Math.max(first, start), Math.min(last, end)];
      if (b - a < TOUCH) return [];
      return [{ side, from: (a - start) / whole, to: (b - start) / whole, length: b - a }];
    });
  });
}

/** How long a stretch is as a seam takes it, in m. */
export function sewnLength(place: StretchPlace): number {
  return sewnRuns(place).reduce((sum, { length }) => sum + length, 0);
}
