import { faceNormals } from '../../mesh/faceNormals';
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
export function writeStl(mesh: Pick<Mesh, 'positions' | 'triangles'>): Uint8Array {
  const { positions, triangles } = mesh;
  const faces = triangles.length / 3;
  const normals = faceNormals(mesh);
  const bytes = new Uint8Array(HEADER_BYTES + faces * FACE_BYTES);
  bytes.set(new TextEncoder().encode('Lumbra'));
  const view = new DataView(bytes.buffer);
  view.setUint32(80, faces, true);
  for (let face = 0; face < faces; face++) {
    let at = HEADER_BYTES + face * FACE_BYTES;
    for (let axis = 0; axis < 3; axis++, at += 4) view.setFloat32(at, normals[face * 3 + axis]!, true);
    for (let corner = face * 3; corner < face * 3 + 3; corner++) {
      const from = triangles[corner]! * 3;
      for (let axis = 0; axis < 3; axis++, at += 4) view.setFloat32(at, positions[from + axis]!, true);
    }
  }
  return bytes;
}
