import fc from 'fast-check';
import { expect, it } from 'vitest';
import { frameFingerprint } from '../run/fingerprint';
import { decodeFrame, encodeFrame, FrameError } from './frameBytes';

const cloths = fc.array(fc.float32Array({ maxLength: 60 }), { maxLength: 4 });

it('reads back what it wrote, bit for bit, wherever the bytes lie', () => {
  fc.assert(
    fc.property(cloths, fc.integer({ min: 0, max: 7 }), (positions, shift) => {
      const bytes = encodeFrame(positions);
      const elsewhere = new Uint8Array(bytes.length + shift);
      elsewhere.set(bytes, shift);
      const back = decodeFrame(elsewhere.subarray(shift), frameFingerprint(positions));
      expect(back.map((cloth) => new Uint8Array(cloth.buffer, cloth.byteOffset, cloth.byteLength))).toEqual(
        positions.map((cloth) => new Uint8Array(cloth.buffer, cloth.byteOffset, cloth.byteLength)),
      );
    }),
  );
});

it('never reads damaged bytes as a frame, and always says that they are', () => {
  fc.assert(
    fc.property(
      fc.array(fc.float32Array({ minLength: 3, maxLength: 60 }), { minLength: 1, maxLength: 3 }),
      fc.nat(),
      fc.integer({ min: 1, max: 255 }),
      fc.boolean(),
      (positions, where, by, cut) => {
        const bytes = encodeFrame(positions);
        const at = where % bytes.length;
        bytes[at]! ^= by;
        const damaged = cut ? bytes.subarray(0, at) : bytes;
        expect(() => decodeFrame(damaged, frameFingerprint(positions))).toThrow(FrameError);
      },
    ),
  );
});
