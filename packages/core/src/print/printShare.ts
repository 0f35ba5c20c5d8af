import type { Print } from '../shot/things';

/** Radius of a dot, and width of a check’s line, as shares of the repeat. */
export const DOT = 0.16;
export const CHECK_LINE = 0.045;
/** How much a check’s line covers. */
export const CHECK_COVER = 0.8;

/** How much of the second colour a print has at a place of its picture, u to the right and v up, 0 to 1 in one repeat. */
export function printShare(kind: Print['kind'], u: number, v: number): number {
  switch (kind) {
    case 'plain':
    case 'picture':
      return 0;
    case 'stripe':
      return u < 0.5 ? 1 : 0;
    case 'check': {
      const [across, along] = [u < CHECK_LINE, v > 1 - CHECK_LINE];
      if (across && along) return 1 - (1 - CHECK_COVER) ** 2;
      return across || along ? CHECK_COVER : 0;
    }
    case 'dots': {
      // One in the middle and one at the corners, so that they stand in quincunx.
      const [x, y] = [Math.abs(u - 0.5), Math.abs(v - 0.5)];
      const near = Math.min(Math.hypot(x, y), Math.hypot(0.5 - x, 0.5 - y));
      return near < DOT ? 1 : 0;
    }
  }
}
