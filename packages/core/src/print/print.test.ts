import { decode, encode } from 'fast-png';
import { describe, expect, test } from 'vitest';
import type { Print } from '../shot/things';
import { linearLight } from './linearLight';
import { PICTURE_PREFIX, pictureOf } from './pictureOf';
import { printPicture } from './printPicture';
import { printPlace } from './printPlace';
import { CHECK_COVER, CHECK_LINE, DOT, printShare } from './printShare';
import { printTile } from './printTile';

const PRINT: Print = {
  kind: 'stripe',
  colour: '#102030',
  second: '#f0e0d0',
  repeat: 0.2,
  turn: 0,
  along: 0,
  across: 0,
  picture: '',
  once: false,
  cutOut: false,
  oneSided: false,
  waxed: false,
};

/** A PNG as the document keeps it, of pixels with four parts each. */
const kept = (width: number, height: number, data: number[], channels = 4, depth: 8 | 16 = 8) => {
  const pixels = depth === 8 ? Uint8Array.from(data) : Uint16Array.from(data);
  return PICTURE_PREFIX + btoa(String.fromCharCode(...encode({ width, height, data: pixels, channels, depth })));
};
const RED = [255, 0, 0, 255];
const CLEAR = [0, 0, 0, 0];
const PAPER = [0x10, 0x20, 0x30, 255];

/** How much of the second colour a print has, all in all, by looking at many places. */
function covered(kind: Print['kind']): number {
  const across = 400;
  let sum = 0;
  for (let at = 0; at < across ** 2; at++)
    sum += printShare(kind, ((at % across) + 0.5) / across, (Math.floor(at / across) + 0.5) / across);
  return sum / across ** 2;
}

describe('the print of a cloth', () => {
  test('covers as much as its kind says', () => {
    expect(covered('plain')).toBe(0);
    expect(covered('stripe')).toBeCloseTo(0.5, 6);
    expect(covered('dots')).toBeCloseTo(2 * Math.PI * DOT ** 2, 3);
    const crossing = CHECK_LINE ** 2 * (1 - (1 - CHECK_COVER) ** 2);
    expect(covered('check')).toBeCloseTo(2 * CHECK_LINE * (1 - CHECK_LINE) * CHECK_COVER + crossing, 3);
  });

  test('is a picture of one repeat, with v up or down', () => {
    expect(printPicture({ ...PRINT, kind: 'plain' })).toBeNull();
    const { data, width, height, channels } = decode(printPicture({ ...PRINT, kind: 'check' })!);
    expect([width, height, channels]).toEqual([256, 256, 3]);
    const pixel = (x: number, y: number) => [...data.slice((y * width + x) * 3, (y * width + x) * 3 + 3)];
    // Lines lie along the top and the left; between them is the first colour.
    expect(pixel(128, 128)).toEqual([0x10, 0x20, 0x30]);
    const line = [0x10, 0x20, 0x30].map((first, at) =>
      Math.round(first + CHECK_COVER * ([0xf0, 0xe0, 0xd0][at]! - first)),
    );
    expect([pixel(128, 2), pixel(2, 128)]).toEqual([line, line]);
    const flipped = decode(printPicture({ ...PRINT, kind: 'check' }, true)!);
    for (let y = 0; y < height; y++) {
      const row = data.slice(y * width * 3, (y + 1) * width * 3);
      expect(flipped.data.slice((height - 1 - y) * width * 3, (height - y) * width * 3)).toEqual(row);
    }
  });

  test('is a picture in a square, on the colour of the cloth', () => {
    const print = { ...PRINT, kind: 'picture', picture: kept(1, 2, [...RED, ...CLEAR]) } as const;
    const rows = (change: Partial<Print>) => {
      const { width, height, pixels } = printTile({ ...print, ...change })!;
      return Array.from({ length: height }, (_, y) =>
        Array.from({ length: width }, (_x, x) => [...pixels.slice((y * width + x) * 4, (y * width + x) * 4 + 4)]),
      );
    };
    expect(rows({})).toEqual([
      [RED, PAPER],
      [PAPER, PAPER],
    ]);
    // What is see-through is cut out; what is beside the picture is not.
    expect(rows({ cutOut: true })).toEqual([
      [RED, PAPER],
      [[...PAPER.slice(0, 3), 0], PAPER],
    ]);
    // Once: all around is the colour of the cloth.
    const once = rows({ once: true });
    expect(once).toHaveLength(4);
    expect([...once[0]!, ...once[3]!, ...once.map((row) => row[0]), ...once.map((row) => row[3])]).toEqual(
      Array.from({ length: 16 }, () => PAPER),
    );
    expect(once[1]![1]).toEqual(RED);
  });

  test('reads grey, clear and deep pictures, and is plain with one that is damaged', () => {
    expect(pictureOf(kept(1, 1, [9], 1))!.pixels).toEqual(Uint8Array.of(9, 9, 9, 255));
    expect(pictureOf(kept(1, 1, [9, 100], 2))!.pixels).toEqual(Uint8Array.of(9, 9, 9, 100));
    expect(pictureOf(kept(1, 1, [0x0a00, 0x0b00, 0x0c00], 3, 16))!.pixels).toEqual(Uint8Array.of(10, 11, 12, 255));
    const whole = kept(1, 1, RED);
    for (const bad of [
      '',
      PICTURE_PREFIX,
      `${PICTURE_PREFIX}AAAA`,
      whole.slice(0, -12),
      'data:text/plain;base64,AAAA',
    ]) {
      expect(pictureOf(bad)).toBeNull();
      expect(printPicture({ ...PRINT, kind: 'picture', picture: bad })).toBeNull();
    }
  });

  test('is cut out where it has the second colour', () => {
    const { data, channels } = decode(printPicture({ ...PRINT, cutOut: true })!);
    expect(channels).toBe(4);
    expect([...data.slice(0, 4)]).toEqual([0x10, 0x20, 0x30, 0]);
    expect([...data.slice(200 * 4, 200 * 4 + 4)]).toEqual(PAPER);
  });

  test('lies moved along warp and weft, then turned', () => {
    const at = (print: Partial<Print>, u: number, v: number) => {
      const { scale, turn, move } = printPlace({ ...PRINT, ...print });
      const [c, s] = [Math.cos(turn), Math.sin(turn)];
      return [c * u * scale - s * v * scale + move[0], s * u * scale + c * v * scale + move[1]];
    };
    expect(at({}, 0.1, 0.2)).toEqual([0.5, 1]);
    // What is moved has its beginning there, however it is turned.
    for (const turn of [0, 0.4, Math.PI / 2, -2]) {
      const [u, v] = at({ turn, along: 0.03, across: 0.07 }, 0.03, 0.07);
      expect(u).toBeCloseTo(0, 12);
      expect(v).toBeCloseTo(0, 12);
    }
    // A quarter turn to the left: what went along the fabric goes across it.
    const [u, v] = at({ turn: Math.PI / 2 }, 0, 0.2);
    expect([u, v]).toEqual([expect.closeTo(1, 12), expect.closeTo(0, 12)]);
  });

  test('has a picture that lies there once as large as its repeat, with the rim beside it', () => {
    const print = { ...PRINT, kind: 'picture', once: true, along: 0.1, across: -0.05, turn: 0.7 } as const;
    const side = 160;
    const picture = kept(side, side, Array.from({ length: side * side }, () => RED).flat());
    const { width, pixels } = printTile({ ...print, picture })!;
    const { scale, turn, move } = printPlace(print);
    const redAt = (along: number, across: number) => {
      const [c, s] = [Math.cos(turn) * scale, Math.sin(turn) * scale];
      const [u, v] = [c * along - s * across + move[0], s * along + c * across + move[1]];
      const at = (Math.floor((1 - v) * width) * width + Math.floor(u * width)) * 4;
      return pixels[at] === 255;
    };
    // By a millimetre within and beyond its corners, along its own sides.
    const at = (right: number, up: number) =>
      redAt(0.1 + Math.cos(0.7) * right - Math.sin(0.7) * up, -0.05 + Math.sin(0.7) * right + Math.cos(0.7) * up);
    const [near, far] = [0.0015, PRINT.repeat - 0.0015];
    for (const [right, up] of [
      [near, near],
      [near, far],
      [far, near],
      [far, far],
    ] as const) {
      expect(at(right, up)).toBe(true);
      expect(at(right + (right === near ? -0.003 : 0.003), up)).toBe(false);
      expect(at(right, up + (up === near ? -0.003 : 0.003))).toBe(false);
    }
  });

  test('has its colours as light adds up', () => {
    expect(linearLight('#000000')).toEqual([0, 0, 0]);
    expect(linearLight('#ffffff')).toEqual([1, 1, 1]);
    // IEC 61966-2-1: half of the way as shown is about a fifth of the light; ten of 255 are still on the straight piece.
    expect(linearLight('#80800a').map((part) => Number(part.toFixed(4)))).toEqual([0.2159, 0.2159, 0.003]);
  });
});
