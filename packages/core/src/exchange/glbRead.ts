import { WebIO, type Document, type Node, type Primitive } from '@gltf-transform/core';
import { meshProblem, type Mesh } from '../mesh/mesh';
import { openGlb } from './openGlb';
import { ReadError } from './readError';

/**
 * Reads all triangles of a binary glTF file as one mesh, with the nodes' placement applied. Texture
 * coordinates become material coordinates only when `material` is asked for (Lumbra's own assets).
 * @throws ReadError
 */
export async function readGlb(bytes: Uint8Array, options: { material?: boolean } = {}): Promise<Mesh> {
  const opened = openGlb(bytes);
  let document: Document;
  try {
    document = await new WebIO().readJSON(opened);
  } catch (error) {
    throw new ReadError(`The GLB file is damaged: ${error instanceof Error ? error.message : String(error)}`);
  }
  const positions: number[] = [];
  const triangles: number[] = [];
  const material: number[] = [];
  let flat = options.material === true;
  for (const node of document.getRoot().listNodes()) {
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      if (primitive.getMode() !== 4) continue;
      const first = positions.length / 3;
      addPositions(primitive, node, positions);
      const indices = primitive.getIndices()?.getArray();
      const count = positions.length / 3 - first;
      for (let i = 0; i < (indices?.length ?? count); i++) triangles.push(first + (indices ? indices[i]! : i));
      const uv = primitive.getAttribute('TEXCOORD_0')?.getArray();
      if (uv && flat) for (const value of uv) material.push(value);
      else flat = false;
    }
  }
  if (triangles.length === 0) throw new ReadError('The GLB file holds no triangles.');
  const mesh: Mesh = {
    positions: new Float32Array(positions),
    triangles: new Uint32Array(triangles.slice(0, triangles.length - (triangles.length % 3))),
    ...(flat && { material: new Float32Array(material) }),
  };
  const problem = meshProblem(mesh);
  if (problem) throw new ReadError(`The mesh in the GLB file cannot be used: ${problem}.`);
  return mesh;
}

function addPositions(primitive: Primitive, node: Node, out: number[]): void {
  const array = primitive.getAttribute('POSITION')?.getArray();
  if (!array) return;
  const m = node.getWorldMatrix();
  for (let i = 0; i < array.length; i += 3) {
    const [x, y, z] = [array[i]!, array[i + 1]!, array[i + 2]!];
    for (let axis = 0; axis < 3; axis++) out.push(m[axis]! * x + m[4 + axis]! * y + m[8 + axis]! * z + m[12 + axis]!);
  }
}
