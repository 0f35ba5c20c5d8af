import { literals } from './literals';

/**
 * Whole numbers of 32 bits as a crate packs them: differences from one to the next, for each a code of two bits that says whether it is the commonest
 * one, or one of 8, 16 or 32 bits; then as a block.
 */
export function packIntegers(numbers: readonly number[]): Uint8Array {
  const steps = numbers.map((value, i) => (value - (numbers[i - 1] ?? 0)) | 0);
  const commonest = mostFrequent(steps);
  const codes = new Uint8Array(Math.ceil(numbers.length / 4));
  const rest = new DataView(new ArrayBuffer(numbers.length * 4));
  let at = 0;
  steps.forEach((step, i) => {
    const put = (code: number, bytes: number, set: (value: number) => void) => {
      codes[i >> 2]! |= code << ((i & 3) * 2);
      set(step);
      at += bytes;
    };
    if (step === commonest) return;
    if (step >= -0x80 && step < 0x80) put(1, 1, (value) => rest.setInt8(at, value));
    else if (step >= -0x8000 && step < 0x8000) put(2, 2, (value) => rest.setInt16(at, value, true));
    else put(3, 4, (value) => rest.setInt32(at, value, true));
  });
  const bytes = new Uint8Array(4 + codes.length + at);
  new DataView(bytes.buffer).setInt32(0, commonest, true);
  bytes.set(codes, 4);
  bytes.set(new Uint8Array(rest.buffer, 0, at), 4 + codes.length);
  return literals(bytes);
}

function mostFrequent(values: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  let [best, most] = [0, 0];
  for (const [value, count] of counts) if (count > most) [best, most] = [value, count];
  return best;
}
