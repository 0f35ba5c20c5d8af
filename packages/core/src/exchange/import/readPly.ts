import { PLYLoader } from 'three/addons/loaders/PLYLoader.js';
import type { Mesh } from '../../mesh/mesh';
import { asUtf8 } from '../decodeText';
import { ReadError } from '../readError';

/** Reads a PLY file, text or binary. @throws ReadError */
export function readPly(given: Uint8Array): Mesh {
  const bytes = withoutRemarks(asUtf8(given));
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 16_384));
  if (!head.startsWith('ply')) throw new ReadError('This is not a PLY file: it does not begin with “ply”.');
  if (!head.includes('end_header')) throw new ReadError('The PLY file is cut short: its header has no end.');
  const declared = (element: string) => Number(new RegExp(`element ${element} (\\d+)`).exec(head)?.[1] ?? 0);
  const [points, faces] = [declared('vertex'), declared('face')];
  if (points === 0) throw new ReadError('The PLY file has no points.');
  if (faces === 0) throw new ReadError('The PLY file has points but no faces: a cloud of points is no surface.');
  let geometry;
  try {
    geometry = new PLYLoader().parse(bytes.slice().buffer);
  } catch {
    throw new ReadError(`The PLY file is cut short or damaged: its header names ${points} points and ${faces} faces.`);
  }
  const positions = Float32Array.from((geometry.getAttribute('position') as { array: ArrayLike<number> }).array);
  const triangles = Uint32Array.from(geometry.getIndex()?.array ?? []);
  if (positions.length !== points * 3 || triangles.length < faces * 3) {
    throw new ReadError(
      `The PLY file is cut short: its header names ${points} points and ${faces} faces, and it has ${positions.length / 3} and at most ${Math.floor(triangles.length / 3)}.`,
    );
  }
  return { positions, triangles };
}

/**
 * The same file without the lines of its header that only a person reads: the reader prints those that it does not know, where a
 * program that reads our output would find them.
 */
function withoutRemarks(bytes: Uint8Array): Uint8Array {
  const end = 'end_header';
  const head = Array.from(bytes.subarray(0, 65_536), (byte) => String.fromCharCode(byte)).join('');
  const at = head.indexOf(end);
  if (at < 0) return bytes;
  const kept = head.slice(0, at).replace(/^(?!ply|format|element|property).*(\r\n?|\n|$)/gm, '');
  const start = Uint8Array.from(kept, (letter) => letter.charCodeAt(0));
  const all = new Uint8Array(start.length + bytes.length - at);
  all.set(start);
  all.set(bytes.subarray(at), start.length);
  return all;
}
