import { pointNormals } from '../../mesh/normals';
import { asOneMesh } from './asOneMesh';
import { sequenceFormat, type HandedCloth } from './format';

/** Binary little-endian PLY with normals and material coordinates: small, and read by whatever reads scans. */
export const plySequence = sequenceFormat(
  {
    ...{ id: 'ply', label: 'PLY sequence', note: 'binary, a file a frame', type: 'application/octet-stream' },
    writeFrame: ({ cloths }, { positions }) => {
      const mesh = asOneMesh(cloths, positions);
      return writePly(mesh, mesh.positions);
    },
  },
  ({ mesh }, positions) => writePly(mesh, positions),
);

const BYTES = { float: 4, face: 1 + 3 * 4 };

/** A mesh at some places, x y z in m. Points have x y z, nx ny nz and, where the mesh has them, u v in m. */
export function writePly(mesh: HandedCloth['mesh'], positions: Float32Array): Uint8Array {
  const { triangles, material, sewn } = mesh;
  const points = positions.length / 3;
  const names = ['x', 'y', 'z', 'nx', 'ny', 'nz', ...(material ? ['u', 'v'] : [])];
  const header = [
    ...['ply', 'format binary_little_endian 1.0', 'comment Lumbra, metres, y up', `element vertex ${points}`],
    ...names.map((name) => `property float ${name}`),
    ...[`element face ${triangles.length / 3}`, 'property list uchar int vertex_indices', 'end_header', ''],
  ].join('\n');
  const text = new TextEncoder().encode(header);
  const bytes = new Uint8Array(text.length + points * names.length * BYTES.float + (triangles.length / 3) * BYTES.face);
  bytes.set(text);
  const view = new DataView(bytes.buffer);
  const normals = pointNormals(positions, triangles, undefined, sewn);
  let at = text.length;
  const put = (value: number) => {
    view.setFloat32(at, value, true);
    at += BYTES.float;
  };
  for (let point = 0; point < points; point++) {
    for (const values of [positions, normals]) for (let axis = 0; axis < 3; axis++) put(values[point * 3 + axis]!);
    if (material) for (let axis = 0; axis < 2; axis++) put(material[point * 2 + axis]!);
  }
  for (let corner = 0; corner < triangles.length; corner += 3) {
    view.setUint8(at++, 3);
    for (let i = 0; i < 3; i++, at += 4) view.setInt32(at, triangles[corner + i]!, true);
  }
  return bytes;
}
