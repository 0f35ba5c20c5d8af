import { sizeOfPiece } from './describePattern';
import type { Piece } from './schema';

/** Points that a new pattern has, about: enough for folds, and quick. */
const POINTS = 3000;
const SPACINGS = [0.002, 0.003, 0.005, 0.008, 0.01, 0.015, 0.02, 0.03, 0.05, 0.1];

/** The spacing in m that suits pieces at first, as one would choose it. */
export function spacingFor(pieces: readonly Piece[]): number {
  const area = pieces.reduce((sum, piece) => sum + sizeOfPiece(piece).area, 0);
  const wanted = Math.sqrt(area / POINTS);
  return SPACINGS.find((spacing) => spacing >= wanted) ?? SPACINGS.at(-1)!;
}
