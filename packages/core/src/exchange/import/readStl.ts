import { STLLoader } from 'three/addons/loaders/STLLoader.js';
import type { Mesh } from '../../mesh/mesh';
import { weld } from '../../mesh/weld';
import { asUtf8 } from '../decodeText';
import { ReadError } from '../readError';

const HEADER = 84;
const FACE = 50;

/**
 * Reads an STL file, binary or text. STL repeats every point for every face, so points in exactly one place are one.
 * @throws ReadError
 */
export function readStl(given: Uint8Array): Mesh {
  const bytes = asUtf8(given);
  const text = new TextDecoder().decode(bytes.subarray(0, 512)).trimStart().toLowerCase();
  const isText = text.startsWith('solid') && text.includes('facet');
  if (!isText) {
    if (bytes.length < HEADER) throw new ReadError('The STL file is cut short: it has no count of faces.');
    const count = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true);
    const needed = HEADER + count * FACE;
    if (bytes.length < needed) {
      throw new ReadError(
        `The STL file is cut short, or is none: its ${count} faces need ${needed} bytes and it has ${bytes.length}.`,
      );
    }
  }
  const geometry = new STLLoader().parse(bytes.slice().buffer);
  const positions = geometry.getAttribute('position') as { array: ArrayLike<number> } | undefined;
  if (!positions || positions.array.length === 0) throw new ReadError('The STL file holds no faces.');
  const array = Float32Array.from(positions.array);
  const bad = array.findIndex((value) => !Number.isFinite(value));
  if (bad >= 0)
    throw new ReadError(`Face ${Math.floor(bad / 9) + 1} of the STL file has a corner that is not a number.`);
  return weld(
    { positions: array, triangles: Uint32Array.from({ length: array.length / 3 }, (_, i) => i) },
    { tolerance: 0 },
  ).mesh;
}
