import { sideLength, sidesOf } from '../mesh/outline/path';
import type { Piece, Stretch } from './schema';

/** Where a stretch of border runs: the loop of its piece (0 the outline, then its holes) and the sides that it has, in order. */
export interface StretchPlace {
  piece: Piece;
  loop: number;
  sides: number[];
  /** Whether it is all of the loop, so that its end is its beginning. */
  whole: boolean;
  /** In m. */
  length: number;
}

/** The loops of a piece: its outline, then its holes. */
export function loopsOfPiece({ outline, holes }: Piece): readonly Piece['outline'][] {
  return [outline, ...holes];
}

/** Where a stretch runs; null where its piece or its nodes are not there. */
export function findStretch(pieces: readonly Piece[], { piece: id, from, to }: Stretch): StretchPlace | null {
  const piece = pieces.find((candidate) => candidate.id === id);
  if (!piece) return null;
  for (const [loop, nodes] of loopsOfPiece(piece).entries()) {
    const start = nodes.findIndex((node) => node.id === from);
    const end = nodes.findIndex((node) => node.id === to);
    if (start < 0 || end < 0) continue;
    const count = start === end ? nodes.length : (end - start + nodes.length) % nodes.length;
    const sides = Array.from({ length: count }, (_, i) => (start + i) % nodes.length);
    const all = sidesOf(nodes);
    const length = sides.reduce((sum, side) => sum + sideLength(all[side]!), 0);
    return { piece, loop, sides, whole: start === end, length };
  }
  return null;
}

/** One name for each side of a pattern. */
export function sideKey(piece: string, loop: number, side: number): string {
  return `${piece} ${loop} ${side}`;
}

/** The names of the sides of a stretch. */
export function sideKeys({ piece, loop, sides }: StretchPlace): string[] {
  return sides.map((side) => sideKey(piece.id, loop, side));
}
