/**
 * Bytes as one block of LZ4 that copies nothing, behind the byte that says that there is one block. The tables of a layer are some kilobytes beside
 * its samples, which are not packed at all: searching for what repeats would win nothing.
 */
export function literals(bytes: Uint8Array): Uint8Array {
  const head: number[] = [0];
  if (bytes.length < 15) head.push(bytes.length << 4);
  else {
    head.push(0xf0);
    let rest = bytes.length - 15;
    for (; rest >= 255; rest -= 255) head.push(255);
    head.push(rest);
  }
  const out = new Uint8Array(head.length + bytes.length);
  out.set(head);
  out.set(bytes, head.length);
  return out;
}
