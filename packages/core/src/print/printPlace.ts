import type { Print } from '../shot/things';

/** How material coordinates, in m, become those of a print’s picture, one repeat each way: scaled, then turned counter-clockwise, then moved. */
export interface PrintPlace {
  scale: number;
  /** Radians. */
  turn: number;
  move: [u: number, v: number];
}

/** How wide the rim of a picture that lies there once is, as a share of the picture: so far programs blur it when it is seen from afar. */
export const RIM = 1 / 16;

export const isOnce = ({ kind, once }: Pick<Print, 'kind' | 'once'>): boolean => kind === 'picture' && once;

/** Where a print lies: moved first, then turned, so along warp and weft however it lies. The rim of a picture is beside what its repeat measures. */
export function printPlace(
  print: Omit<Print, 'colour' | 'second' | 'waxed' | 'picture' | 'cutOut' | 'oneSided'>,
): PrintPlace {
  const { along, across, repeat, turn } = print;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const rim = isOnce(print) ? RIM : 0;
  const tile = repeat * (1 + 2 * rim);
  const begin = (rim * repeat) / tile;
  return {
    scale: 1 / tile,
    turn: -turn,
    move: [begin - (c * along + s * across) / tile, begin + (s * along - c * across) / tile],
  };
}
