import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** SHA-256 over the bits of all positions of a frame, cloth by cloth, in hexadecimal. */
export function frameFingerprint(positions: readonly Float32Array[]): string {
  const hash = sha256.create();
  for (const cloth of positions) hash.update(new Uint8Array(cloth.buffer, cloth.byteOffset, cloth.byteLength));
  return bytesToHex(hash.digest());
}

/** The fingerprint of a bake: over the fingerprints of its frames, in order. */
export function bakeFingerprint(frames: readonly string[]): string {
  return textHash(frames.join('\n'));
}

export function textHash(text: string): string {
  return bytesToHex(sha256(new TextEncoder().encode(text)));
}

export function bytesHash(bytes: Uint8Array): string {
  return bytesToHex(sha256(bytes));
}
