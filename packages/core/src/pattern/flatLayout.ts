import { sizeOfPiece } from './describePattern';
import type { Piece } from './schema';

/** Pieces lie so many m apart. */
const GAP = 0.06;
/** How much wider than high the whole is to be. */
const PROPORTION = 2;

/** Where the origin of each piece lies when all are laid out beside each other in rows, in m, v up; around the middle of all. */
export function flatLayout(pieces: readonly Piece[]): { at: [number, number][]; width: number; height: number } {
  const sizes = pieces.map(sizeOfPiece);
  const area = sizes.reduce((sum, { width, height }) => sum + (width + GAP) * (height + GAP), 0);
  const most = Math.max(Math.sqrt(area * PROPORTION), ...sizes.map(({ width }) => width));
  const at: [number, number][] = [];
  let [u, v, rowHeight, width] = [0, 0, 0, 0];
  sizes.forEach(({ low, width: own, height }) => {
    if (u > 0 && u + own > most) [u, v, rowHeight] = [0, v - rowHeight - GAP, 0];
    at.push([u - low[0], v - height - low[1]]);
    u += own + GAP;
    rowHeight = Math.max(rowHeight, height);
    width = Math.max(width, u - GAP);
  });
  const height = rowHeight - v;
  return { at: at.map(([x, y]) => [x - width / 2, y + height / 2]), width, height };
}
