import { frameFingerprint } from '../run/fingerprint';

// A kept frame as bytes: "LMBF", u32 version, u32 number of cloths, for each the u32 number of its float32 values, then the values
// of all, x y z in metres, little-endian. What was measured of the frame is kept beside it, with the fingerprint of these values.

const MAGIC = 0x46424d4c;
const VERSION = 1;
const HEADER = 12;

/** A kept frame could not be read back; the message says why. */
export class FrameError extends Error {}

/** Positions per cloth as bytes. */
export function encodeFrame(positions: readonly Float32Array[]): Uint8Array<ArrayBuffer> {
  const start = HEADER + positions.length * 4;
  const bytes = new Uint8Array(start + positions.reduce((sum, { byteLength }) => sum + byteLength, 0));
  const header = new Uint32Array(bytes.buffer, 0, start / 4);
  header.set([MAGIC, VERSION, positions.length, ...positions.map(({ length }) => length)]);
  let at = start;
  for (const cloth of positions) {
    bytes.set(new Uint8Array(cloth.buffer, cloth.byteOffset, cloth.byteLength), at);
    at += cloth.byteLength;
  }
  return bytes;
}

/**
 * Reads a frame back and compares it with its fingerprint.
 * @throws FrameError when the bytes are not a whole frame, or not the one that was kept
 */
export function decodeFrame(given: Uint8Array, fingerprint: string): Float32Array<ArrayBuffer>[] {
  // A copy that starts on a 4-byte boundary.
  const bytes = given.slice();
  const header = new Uint32Array(bytes.buffer, 0, bytes.length >> 2);
  if (bytes.length < HEADER || header[0] !== MAGIC) throw new FrameError('This is not a kept frame.');
  if (header[1] !== VERSION) throw new FrameError('This frame was kept by another version of Lumbra.');
  const count = header[2]!;
  const lengths = header.subarray(3, 3 + count);
  let at = HEADER + count * 4;
  const needed = at + lengths.reduce((sum, length) => sum + length * 4, 0);
  if (lengths.length < count || needed !== bytes.length) throw new FrameError('This kept frame is cut short.');
  const positions = Array.from(lengths, (length) => {
    const values = new Float32Array(bytes.buffer, at, length);
    at += length * 4;
    return values;
  });
  if (frameFingerprint(positions) !== fingerprint) throw new FrameError('This frame was damaged in storage.');
  return positions;
}
