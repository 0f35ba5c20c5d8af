import { areaOf } from './patternProblem';
import { asPolygon } from '../mesh/outline/path';
import type { Piece } from './schema';

/** Width and height of a piece along u and v, and its area without holes, in m and m². */
export function sizeOfPiece(piece: Piece): { low: [number, number]; width: number; height: number; area: number } {
  const places = asPolygon(piece.outline, 64);
  const [us, vs] = [places.map(([u]) => u), places.map(([, v]) => v)];
  const low: [number, number] = [Math.min(...us), Math.min(...vs)];
  return { low, width: Math.max(...us) - low[0], height: Math.max(...vs) - low[1], area: areaOf(piece) };
}
