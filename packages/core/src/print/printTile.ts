import type { Print } from '../shot/things';
import { pictureOf, type Picture } from './pictureOf';
import { printShare } from './printShare';
import { tileSide } from './tileSide';

const PIXELS = 256;
/** Places looked at each way in a pixel, so that rims are even. */
const PLACES = 4;

const channels = (colour: string) => [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16));

/**
 * One repeat of a print as a square picture, u to the right and v up; none where it is plain. What is cut out has no opacity. A picture lies in the middle
 * of the square, as large as it can; beside it is the colour of the cloth. One that lies there once has a rim of that colour, which goes on around it.
 */
export function printTile(print: Print): Picture | null {
  if (print.kind === 'plain') return null;
  if (print.kind === 'picture') return pictureTile(print);
  const [first, second] = [channels(print.colour), channels(print.second)];
  const pixels = new Uint8Array(PIXELS * PIXELS * 4);
  for (let at = 0; at < PIXELS * PIXELS; at++) {
    let share = 0;
    for (let place = 0; place < PLACES * PLACES; place++) {
      const u = ((at % PIXELS) + ((place % PLACES) + 0.5) / PLACES) / PIXELS;
      const down = (Math.floor(at / PIXELS) + (Math.floor(place / PLACES) + 0.5) / PLACES) / PIXELS;
      share += printShare(print.kind, u, 1 - down) / PLACES ** 2;
    }
    const mixed = print.cutOut ? 0 : share;
    for (let channel = 0; channel < 3; channel++)
      pixels[at * 4 + channel] = Math.round(first[channel]! + mixed * (second[channel]! - first[channel]!));
    pixels[at * 4 + 3] = print.cutOut ? Math.round(255 * (1 - share)) : 255;
  }
  return { width: PIXELS, height: PIXELS, pixels };
}

function pictureTile(print: Print): Picture | null {
  const { picture: text, colour, cutOut } = print;
  const picture = pictureOf(text);
  if (!picture) return null;
  const side = tileSide(print, picture);
  const pixels = new Uint8Array(side * side * 4);
  const paper = [...channels(colour), 255];
  for (let at = 0; at < pixels.length; at += 4) pixels.set(paper, at);
  const left = Math.floor((side - picture.width) / 2);
  const top = Math.floor((side - picture.height) / 2);
  for (let y = 0; y < picture.height; y++) {
    for (let x = 0; x < picture.width; x++) {
      const from = (y * picture.width + x) * 4;
      const to = ((y + top) * side + x + left) * 4;
      const opacity = picture.pixels[from + 3]! / 255;
      for (let channel = 0; channel < 3; channel++)
        pixels[to + channel] = Math.round(
          paper[channel]! + opacity * (picture.pixels[from + channel]! - paper[channel]!),
        );
      pixels[to + 3] = cutOut ? picture.pixels[from + 3]! : 255;
    }
  }
  return { width: side, height: side, pixels };
}
