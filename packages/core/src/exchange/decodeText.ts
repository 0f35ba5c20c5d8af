/**
 * The text of a file: UTF-8, or UTF-16 where it says so at its beginning, or where every other byte of its beginning is 0, as some programs
 * write it.
 */
export function decodeText(bytes: Uint8Array): string {
  return new TextDecoder(encodingOf(bytes)).decode(bytes);
}

function encodingOf(bytes: Uint8Array): 'utf-8' | 'utf-16le' | 'utf-16be' {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  const start = bytes.subarray(0, 64);
  if (start.length < 4) return 'utf-8';
  const zeros = (odd: number) => start.every((byte, i) => (i % 2 === odd ? byte === 0 : byte !== 0));
  return zeros(1) ? 'utf-16le' : zeros(0) ? 'utf-16be' : 'utf-8';
}

/** A text file in UTF-16 that says so, as UTF-8; any other as it is. */
export function asUtf8(bytes: Uint8Array): Uint8Array {
  const wide = (bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff);
  return wide ? new TextEncoder().encode(decodeText(bytes)) : bytes;
}
