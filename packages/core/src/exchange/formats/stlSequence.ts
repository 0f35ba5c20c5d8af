import type { Mesh } from '../../mesh/mesh';
import { asOneMesh } from './asOneMesh';
import { sequenceFormat } from './format';

const HEADER_BYTES = 84;
const FACE_BYTES = 50;

/** Binary STL: faces with their normals and nothing else, for printing and for whatever reads no more than that. */
export const stlSequence = sequenceFormat(
  {
    ...{ id: 'stl', label: 'STL sequence', note: 'binary, faces only', type: 'model/stl' },
    writeFrame: ({ cloths }, { positions }) => writeStl(asOneMesh(cloths, positions)),
  },
  ({ mesh }, positions) => writeStl({ ...mesh, positions }),
);

/** A mesh as binary STL, little-endian; STL says nothing of units. */
export function writeStl({ positions, triangles }: Mesh): Uint8Array {
  const faces = triangles.length / 3;
  const bytes = new Uint8Array(HEADER_BYTES + faces * FACE_BYTES);
  bytes.set(new TextEncoder().encode('Lumbra'));
  const view = new DataView(bytes.buffer);
  view.setUint32(80, faces, true);
  for (let face = 0; face < faces; face++) {
    const corners = [0, 1, 2].map((corner) => {
      const at = triangles[face * 3 + corner]! * 3;
      return [positions[at]!, positions[at + 1]!, positions[at + 2]!] as const;
    });
    const numbers = [...normalOf(corners), ...corners.flat()];
    numbers.forEach((value, i) => view.setFloat32(HEADER_BYTES + face * FACE_BYTES + i * 4, value, true));
  }
  return bytes;
}

function normalOf([a, b, c]: readonly (readonly [number, number, number])[]): number[] {
  const [u, v] = [b!, c!].map((corner) => corner.map((value, axis) => value - a![axis]!));
  const normal = [0, 1, 2].map((axis) => {
    const [next, last] = [(axis + 1) % 3, (axis + 2) % 3];
    return u![next]! * v![last]! - u![last]! * v![next]!;
  });
  const size = Math.sqrt(normal.reduce((sum, value) => sum + value * value, 0));
  return size > 0 ? normal.map((value) => value / size) : [0, 0, 0];
}
