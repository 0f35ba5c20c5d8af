import { encode } from 'fast-png';
import type { Print } from '../shot/things';
import { printShare } from './printShare';

const PIXELS = 256;
/** Places looked at each way in a pixel, so that rims are even. */
const PLACES = 4;

/** One repeat of a print as a PNG picture, with u to the right and v up; none where it is plain. `flipped` has v down. */
export function printPicture(print: Print, flipped = false): Uint8Array | null {
  if (print.kind === 'plain') return null;
  const [first, second] = [print.colour, print.second].map((colour) =>
    [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16)),
  );
  const pixels = new Uint8Array(PIXELS * PIXELS * 3);
  for (let y = 0; y < PIXELS; y++) {
    for (let x = 0; x < PIXELS; x++) {
      let share = 0;
      for (let place = 0; place < PLACES * PLACES; place++) {
        const u = (x + ((place % PLACES) + 0.5) / PLACES) / PIXELS;
        const down = (y + (Math.floor(place / PLACES) + 0.5) / PLACES) / PIXELS;
        share += printShare(print.kind, u, flipped ? down : 1 - down) / PLACES ** 2;
      }
      for (let channel = 0; channel < 3; channel++) {
        pixels[(y * PIXELS + x) * 3 + channel] = Math.round(
          first![channel]! + share * (second![channel]! - first![channel]!),
        );
      }
    }
  }
  return encode({ width: PIXELS, height: PIXELS, data: pixels, channels: 3 });
}
