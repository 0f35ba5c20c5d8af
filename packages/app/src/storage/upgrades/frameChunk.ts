import type { BakedFrame, FrameStats } from '@lumbra/core';

// How frames were kept up to version 2 of the database, several at a time. A chunk of frames as bytes: "LMBC", u32 version, u32 length of the header, the header as JSON, padding to 4
// bytes, then float32 positions, frame by frame and cloth by cloth, little-endian.

const MAGIC = 0x43424d4c;
const VERSION = 2;

interface ChunkHeader {
  frames: { frame: number; stats: FrameStats; counts: number[] }[];
}

/** Kept frames could not be read back; the message says why. */
export class ChunkError extends Error {}

/**
 * Reads a chunk back. @throws ChunkError when the bytes are not a whole chunk
 */
export function decodeChunk(bytes: Uint8Array<ArrayBuffer>): BakedFrame[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 12 || view.getUint32(0, true) !== MAGIC) throw new ChunkError('These are not kept frames.');
  if (view.getUint32(4, true) !== VERSION) throw new ChunkError('These frames were kept by another version of Lumbra.');
  const length = view.getUint32(8, true);
  const start = (12 + length + 3) & ~3;
  if (start > bytes.length) throw new ChunkError('The kept frames are cut short.');
  let header: ChunkHeader;
  try {
    header = JSON.parse(new TextDecoder().decode(bytes.subarray(12, 12 + length))) as ChunkHeader;
  } catch {
    throw new ChunkError('The list of kept frames is damaged.');
  }
  let at = bytes.byteOffset + start;
  const end = bytes.byteOffset + bytes.length;
  return header.frames.map(({ frame, stats, counts }) => {
    const positions = counts.map((count) => {
      if (at + count * 4 > end) throw new ChunkError('The kept frames are cut short.');
      // A copy, so that a kept frame does not hold the whole chunk and starts on a 4-byte boundary.
      const values = new Float32Array(bytes.buffer.slice(at, at + count * 4));
      at += count * 4;
      return values;
    });
    return { frame, stats, positions };
  });
}
