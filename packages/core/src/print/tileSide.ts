import type { Print } from '../shot/things';
import { isOnce, RIM } from './printPlace';

/** How many pixels wide the square is that a picture lies in, with the rim that one has that lies there once. */
export function tileSide(
  print: Pick<Print, 'kind' | 'once'>,
  { width, height }: { width: number; height: number },
): number {
  const side = Math.max(width, height);
  return isOnce(print) ? side + 2 * Math.ceil(side * RIM) : side;
}
