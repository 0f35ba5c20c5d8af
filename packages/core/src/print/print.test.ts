import { decode } from 'fast-png';
import { describe, expect, test } from 'vitest';
import type { Print } from '../shot/things';
import { linearLight } from './linearLight';
import { printPicture } from './printPicture';
import { printPlace } from './printPlace';
import { CHECK_COVER, CHECK_LINE, DOT, printShare } from './printShare';

const PRINT: Print = {
  kind: 'stripe',
  colour: '#102030',
  second: '#f0e0d0',
  repeat: 0.2,
  turn: 0,
  along: 0,
  across: 0,
  waxed: false,
};

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

  test('has its colours as light adds up', () => {
    expect(linearLight('#000000')).toEqual([0, 0, 0]);
    expect(linearLight('#ffffff')).toEqual([1, 1, 1]);
    // IEC 61966-2-1: half of the way as shown is about a fifth of the light; ten of 255 are still on the straight piece.
    expect(linearLight('#80800a').map((part) => Number(part.toFixed(4)))).toEqual([0.2159, 0.2159, 0.003]);
  });
});
