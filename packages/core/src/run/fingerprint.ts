import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import type { Mesh } from '../mesh/mesh';

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

const hashes = new WeakMap<Mesh, string>();

/** Takes over the hash of a mesh from where it was computed, such as another thread. */
export function rememberMeshHash(mesh: Mesh, hash: string): void {
  hashes.set(mesh, hash);
}

/** The hash of a mesh with its animation; meshes are never changed in place, so each is hashed once. */
export function meshHash(mesh: Mesh): string {
  const known = hashes.get(mesh);
  if (known !== undefined) return known;
  const { positions, triangles, material, motion } = mesh;
  const hash = sha256.create();
  const arrays = [positions, triangles, material];
  if (motion) {
    arrays.push(motion.bind, motion.weights, ...motion.targets);
    hash.update(bytesOf(motion.joints));
    for (const clip of motion.clips) {
      hash.update(new TextEncoder().encode(JSON.stringify([clip.name, clip.rate, clip.samples])));
      arrays.push(clip.matrices, clip.targetWeights);
    }
  }
  for (const array of arrays) if (array) hash.update(bytesOf(array));
  const text = bytesToHex(hash.digest());
  hashes.set(mesh, text);
  return text;
}

function bytesOf({ buffer, byteOffset, byteLength }: Float32Array | Uint32Array | Uint16Array): Uint8Array {
  return new Uint8Array(buffer, byteOffset, byteLength);
}

/** The id of a mesh among the assets of a shot, made from its content: the same mesh is kept once. */
export function meshId(mesh: Mesh): string {
  return meshHash(mesh).slice(0, 24);
}
