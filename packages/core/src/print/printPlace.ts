import type { Print } from '../shot/things';

/** How material coordinates, in m, become those of a print’s picture, one repeat each way: scaled, then turned counter-clockwise, then moved. */
export interface PrintPlace {
  scale: number;
  /** Radians. */
  turn: number;
  move: [u: number, v: number];
}

/** Where a print lies: moved first, then turned, so along warp and weft however it lies. */
export function printPlace({
  along,
  across,
  repeat,
  turn,
}: Pick<Print, 'along' | 'across' | 'repeat' | 'turn'>): PrintPlace {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return {
    scale: 1 / repeat,
    turn: -turn,
    move: [-(c * along + s * across) / repeat, (s * along - c * across) / repeat],
  };
}
