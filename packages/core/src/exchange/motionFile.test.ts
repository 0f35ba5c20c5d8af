import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Motion } from '../mesh/mesh';
import { sheet } from '../mesh/shapes/sheet';
import { readMotion, writeMotion } from './motionFile';
import { ReadError } from './readError';

const mesh = sheet({ width: 1, height: 1, spacing: 0.5 });
const count = mesh.positions.length / 3;

/** Some numbers that differ from each other. */
const numbers = (length: number, seed: number) => Float32Array.from({ length }, (_, i) => Math.fround(seed + i * 0.37));

function motion(bones: number, targets: number, samples: number[]): Motion {
  return {
    bind: numbers(count * 3, 1),
    joints: Uint16Array.from({ length: count * 4 }, (_, i) => i % bones),
    weights: numbers(count * 4, 2),
    bones,
    targets: Array.from({ length: targets }, (_, k) => numbers(count * 3, 10 + k)),
    clips: samples.map((length, k) => ({
      name: `Clip ${k}`,
      rate: 24 + k,
      samples: length,
      matrices: numbers(length * bones * 12, 100 + k),
      targetWeights: numbers(length * targets, 200 + k),
    })),
  };
}

describe('the animation of a mesh in a file', () => {
  it('comes back bit for bit, with any bones, targets and clips', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 0, max: 3 }),
        fc.array(fc.integer({ min: 1, max: 9 }), { maxLength: 4 }),
        (bones, targets, samples) => {
          const before = motion(bones, targets, samples);
          const { header, numbers: bytes } = writeMotion(before);
          const after = readMotion(mesh, header, bytes);
          expect(after.motion).toEqual(before);
          expect(after.positions).toBe(mesh.positions);
        },
      ),
    );
  });

  it('is read from the middle of a larger file as well', () => {
    const before = motion(2, 1, [3]);
    const { header, numbers: bytes } = writeMotion(before);
    const file = new Uint8Array(bytes.length + 7);
    file.set(bytes, 7);
    expect(readMotion(mesh, header, file.subarray(7)).motion).toEqual(before);
  });

  it('is refused with a reason when it is damaged', () => {
    const { header, numbers: bytes } = writeMotion(motion(2, 1, [3, 2]));
    const damaged: [string, string, Uint8Array][] = [
      ['no JSON', '{', bytes],
      ['another header', JSON.stringify({ ...(JSON.parse(header) as object), bones: 0 }), bytes],
      ['cut short', header, bytes.subarray(0, bytes.length - 1)],
      ['too long', header, Uint8Array.from([...bytes, 0, 0])],
      ['of another mesh', JSON.stringify({ ...(JSON.parse(header) as object), points: count + 1 }), bytes],
    ];
    for (const [, head, body] of damaged) expect(() => readMotion(mesh, head, body)).toThrow(ReadError);
    const joints = bytes.slice();
    joints[bytes.length - 2] = 9;
    expect(() => readMotion(mesh, header, joints)).toThrow(/a bone that it lacks/);
  });
});
