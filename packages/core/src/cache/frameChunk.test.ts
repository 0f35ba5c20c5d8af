import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { BakedFrame } from '../run/bakeRun';
import { frameFingerprint } from '../run/fingerprint';
import { ChunkError, decodeChunk, encodeChunk } from './frameChunk';

const cloth = fc.float32Array({ noNaN: true, maxLength: 60 }).map((values) => new Float32Array(values));
const frame = fc
  .record({ frame: fc.integer({ min: -100, max: 1000 }), positions: fc.array(cloth, { maxLength: 3 }) })
  .map(({ frame, positions }): BakedFrame => ({
    frame,
    positions,
    stats: {
      seconds: frame / 24,
      kineticEnergy: 1.5,
      meanStretch: 0.001,
      maxStretch: 0.02,
      fastest: 2,
      crossings: 0,
      deepest: 0,
      deepestIn: null,
      deepestAt: null,
      stretchAt: null,
      crossingAt: null,
      contacts: 7,
      fingerprint: frameFingerprint(positions),
    },
  }));

describe('kept frames', () => {
  it('come back as they were', () => {
    fc.assert(
      fc.property(fc.array(frame, { maxLength: 5 }), (frames) => {
        expect(decodeChunk(encodeChunk(frames))).toEqual(frames);
      }),
    );
  });

  it('say so when any byte was changed or cut off', () => {
    const whole = fc
      .array(frame, { minLength: 1, maxLength: 3 })
      .filter((frames) => frames.some((f) => f.positions.some((p) => p.length > 0)));
    fc.assert(
      fc.property(whole, fc.nat(), fc.boolean(), (frames, at, cut) => {
        const bytes = encodeChunk(frames);
        const place = bytes.length - 1 - (at % 4);
        const damaged = cut ? bytes.slice(0, place) : bytes;
        if (!cut) damaged[place]! ^= 0x41;
        expect(() => decodeChunk(damaged)).toThrow(ChunkError);
      }),
    );
  });
});
