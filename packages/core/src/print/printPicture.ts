import { encode } from 'fast-png';
import type { Print } from '../shot/things';
import { printTile } from './printTile';

/**
 * One repeat of a print as a PNG picture, with u to the right and v up; none where it is plain. `flipped` has v down. It has opacity where something
 * is cut out of it.
 */
export function printPicture(print: Print, flipped = false): Uint8Array | null {
  const tile = printTile(print);
  if (!tile) return null;
  const { width, height, pixels } = tile;
  const channels = print.cutOut ? 4 : 3;
  const data = new Uint8Array(width * height * channels);
  for (let y = 0; y < height; y++) {
    const row = (flipped ? height - 1 - y : y) * width;
    for (let x = 0; x < width; x++)
      for (let channel = 0; channel < channels; channel++)
        data[(y * width + x) * channels + channel] = pixels[(row + x) * 4 + channel]!;
  }
  return encode({ width, height, data, channels });
}
