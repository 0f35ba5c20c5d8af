import { strToU8, zlibSync } from 'fflate';

/** A picture as PNG (ISO/IEC 15948): red, green and blue of 8 bits each, rows from the top. @throws RangeError where there are not as many bytes as pixels want */
export function pngBytes(width: number, height: number, pixels: Uint8Array): Uint8Array {
  if (pixels.length !== width * height * 3) throw new RangeError('A picture wants three bytes a pixel.');
  // Each row begins with how it was filtered: not at all.
  const rows = new Uint8Array(height * (1 + width * 3));
  for (let y = 0; y < height; y++) {
    rows.set(pixels.subarray(y * width * 3, (y + 1) * width * 3), y * (1 + width * 3) + 1);
  }
  const header = new Uint8Array(13);
  const view = new DataView(header.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  header.set([8, 2, 0, 0, 0], 8);
  const chunks = [chunk('IHDR', header), chunk('IDAT', zlibSync(rows, { level: 9 })), chunk('IEND', new Uint8Array())];
  return Uint8Array.from([0x89, ...strToU8('PNG\r\n'), 0x1a, 0x0a, ...chunks.flatMap((one) => [...one])]);
}

function chunk(name: string, data: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(12 + data.length);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, data.length);
  bytes.set(strToU8(name), 4);
  bytes.set(data, 8);
  view.setUint32(8 + data.length, checksum(bytes.subarray(4, 8 + data.length)));
  return bytes;
}

/** The cyclic redundancy check that PNG asks for, a bit at a time: pictures here are small. */
function checksum(bytes: Uint8Array): number {
  let rest = 0xffffffff;
  for (const byte of bytes) {
    rest ^= byte;
    for (let bit = 0; bit < 8; bit++) rest = rest & 1 ? (rest >>> 1) ^ 0xedb88320 : rest >>> 1;
  }
  return (rest ^ 0xffffffff) >>> 0;
}
