import fc from 'fast-check';
import { expect, it } from 'vitest';
import { sheet } from '../mesh/shapes/sheet';
import { pictureValues } from './pictureValues';

const mesh = sheet({ width: 1, height: 0.5, spacing: 0.05 });

it('a picture covers the fabric, its top on the far side and its left on the left one', () => {
  const values = pictureValues(mesh, { width: 2, height: 2, values: Uint8Array.from([255, 0, 0, 0]) });
  const at = (u: number, v: number) =>
    values[
      mesh.positions.findIndex(
        (_, i) => mesh.material![i * 2] === Math.fround(u) && mesh.material![i * 2 + 1] === Math.fround(v),
      )
    ]!;
  expect(at(0, 0)).toBe(1);
  expect(at(1, 0)).toBe(0);
  expect(at(0, 0.5)).toBe(0);
  expect(at(0.5, 0)).toBeCloseTo(0.5, 5);
  expect(at(0.5, 0.25)).toBeCloseTo(0.25, 5);
});

it('a grey picture of any size is that grey everywhere, and none has no pixels', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 }), fc.nat(255), (width, height, grey) => {
      const values = pictureValues(mesh, { width, height, values: new Uint8Array(width * height).fill(grey) });
      for (const value of values) expect(value).toBeCloseTo(grey / 255, 5);
    }),
  );
  expect(() => pictureValues(mesh, { width: 0, height: 0, values: new Uint8Array() })).toThrow(/no pixels/);
});
