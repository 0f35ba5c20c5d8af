import { CHECK_COVER, CHECK_LINE, DOT, isOnce, printPlace, tileSide, type Print } from '@lumbra/core';
import { CanvasTexture, ClampToEdgeWrapping, RepeatWrapping, SRGBColorSpace, type Texture } from 'three';

// Pictures that make cloth look woven: the print, with uneven yarns in it, and a plain weave as bumps.

const PRINT_PIXELS = 512;
const WEAVE_PIXELS = 256;
/** How much fabric one tile of weave covers, in m, and how many yarns cross it. */
const WEAVE_SIZE = 0.2;
const WEAVE_YARNS = 64;

function canvas(size: number): { element: HTMLCanvasElement; pen: CanvasRenderingContext2D } {
  const element = document.createElement('canvas');
  element.width = element.height = size;
  return { element, pen: element.getContext('2d')! };
}

/** A repeatable stream of numbers from 0 to 1 for streaks; looks do not need to be the same everywhere. */
function streaks(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1664525 + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/**
 * One repeat of the print, with its picture where it has one and it is there. Its size in m is set as the texture's repeat, since u and v are in m. What
 * is cut out is see-through. The tile is the one that files get (`printTile` in core), drawn with yarns in it.
 */
export function printTexture(print: Print, picture: ImageBitmap | null = null): Texture {
  const side = picture ? tileSide(print, picture) : PRINT_PIXELS;
  const { element, pen } = canvas(side);
  pen.fillStyle = print.colour;
  pen.fillRect(0, 0, side, side);
  if (picture) layPicture(pen, picture, side, print.cutOut);
  else drawPattern(pen, print);
  drawYarns(pen, side, print.waxed);
  const texture = new CanvasTexture(element);
  texture.wrapS = texture.wrapT = isOnce(print) ? ClampToEdgeWrapping : RepeatWrapping;
  texture.colorSpace = SRGBColorSpace;
  texture.anisotropy = 8;
  const { scale, turn, move } = printPlace(print);
  texture.repeat.set(scale, scale);
  // three.js turns the picture, not the coordinates.
  texture.rotation = -turn;
  texture.offset.set(...move);
  return texture;
}

/** The picture in the middle of its square; where it is cut out, what it is see-through of is taken away. */
function layPicture(pen: CanvasRenderingContext2D, picture: ImageBitmap, side: number, cutOut: boolean): void {
  const [left, top] = [picture.width, picture.height].map((own) => Math.floor((side - own) / 2)) as [number, number];
  if (cutOut) pen.clearRect(left, top, picture.width, picture.height);
  pen.drawImage(picture, left, top);
}

function drawPattern(pen: CanvasRenderingContext2D, print: Print): void {
  pen.fillStyle = print.second;
  if (print.cutOut) pen.globalCompositeOperation = 'destination-out';
  if (print.kind === 'stripe') {
    pen.fillRect(0, 0, PRINT_PIXELS / 2, PRINT_PIXELS);
  } else if (print.kind === 'check') {
    const line = PRINT_PIXELS * CHECK_LINE;
    pen.globalAlpha = CHECK_COVER;
    pen.fillRect(0, 0, line, PRINT_PIXELS);
    pen.fillRect(0, 0, PRINT_PIXELS, line);
    pen.globalAlpha = 1;
  } else if (print.kind === 'dots') {
    // One in the middle and one at the corners, so that they stand in quincunx.
    for (const [x, y] of [[0.5, 0.5], ...[0, 1].flatMap((u) => [0, 1].map((v) => [u, v] as const))] as const) {
      pen.beginPath();
      pen.arc(x * PRINT_PIXELS, y * PRINT_PIXELS, DOT * PRINT_PIXELS, 0, 2 * Math.PI);
      pen.fill();
    }
  }
}

/** Yarns that are not even; not where the cloth is cut out. */
function drawYarns(pen: CanvasRenderingContext2D, side: number, waxed: boolean): void {
  pen.globalCompositeOperation = 'source-atop';
  const strength = waxed ? 0.045 : 0.075;
  const next = streaks(7);
  for (let n = 0; n < side; n += 2) {
    for (const along of [true, false]) {
      const shade = (next() - 0.5) * 2 * strength;
      pen.fillStyle = shade > 0 ? `rgba(255,250,240,${shade})` : `rgba(20,18,14,${-shade})`;
      if (along) pen.fillRect(n, 0, 2, side);
      else pen.fillRect(0, n, side, 2);
    }
  }
}

let shared: Texture | undefined;

/** Heights of a plain weave, for bumps. */
export function weaveTexture(): Texture {
  if (shared) return shared;
  const { element, pen } = canvas(WEAVE_PIXELS);
  const image = pen.createImageData(WEAVE_PIXELS, WEAVE_PIXELS);
  const yarn = WEAVE_PIXELS / WEAVE_YARNS;
  for (let y = 0; y < WEAVE_PIXELS; y++) {
    for (let x = 0; x < WEAVE_PIXELS; x++) {
      const over = (Math.floor(x / yarn) + Math.floor(y / yarn)) % 2 === 0;
      const across = ((over ? x : y) % yarn) / yarn;
      const height = Math.sin(Math.PI * across) * (over ? 1 : 0.75);
      image.data.set([255 * height, 255 * height, 255 * height, 255], (y * WEAVE_PIXELS + x) * 4);
    }
  }
  pen.putImageData(image, 0, 0);
  shared = new CanvasTexture(element);
  shared.wrapS = shared.wrapT = RepeatWrapping;
  shared.anisotropy = 4;
  shared.repeat.set(1 / WEAVE_SIZE, 1 / WEAVE_SIZE);
  return shared;
}
