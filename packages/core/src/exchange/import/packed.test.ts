import { Document, NodeIO } from '@gltf-transform/core';
import { EXTMeshoptCompression, KHRDracoMeshCompression } from '@gltf-transform/extensions';
import draco from 'draco3dgltf';
import { MeshoptEncoder } from 'meshoptimizer';
import { describe, expect, it, vi } from 'vitest';
import { ball } from '../../mesh/shapes/ball';
import { box } from '../../mesh/shapes/box';
import { writeObj } from '../objWrite';
import { readMeshFile } from './readMeshFile';

const stone = ball({ radius: 0.5, detail: 3 });

function plain(): Document {
  const document = new Document();
  const buffer = document.createBuffer();
  const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
    document.createAccessor().setType(type).setArray(array.slice()).setBuffer(buffer);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', stone.positions))
    .setIndices(accessor('SCALAR', stone.triangles));
  const mesh = document.createMesh('stone').addPrimitive(primitive);
  document.createScene().addChild(document.createNode('stone').setMesh(mesh));
  return document;
}

/** How far the farthest point is from the ball that was packed, in m. */
function farthest(positions: Float32Array): number {
  let most = 0;
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = positions.subarray(i, i + 3) as unknown as [number, number, number];
    most = Math.max(most, Math.abs(Math.sqrt(x * x + y * y + z * z) - 0.5));
  }
  return most;
}

describe('meshes that are packed', () => {
  it('by Draco are read', async () => {
    const document = plain();
    document.createExtension(KHRDracoMeshCompression).setRequired(true);
    const io = new NodeIO().registerExtensions([KHRDracoMeshCompression]);
    io.registerDependencies({ 'draco3d.encoder': await draco.createEncoderModule() });
    const bytes = await io.writeBinary(document);
    const { parts } = await readMeshFile('stone.glb', bytes);
    expect(parts[0]!.mesh.triangles).toHaveLength(stone.triangles.length);
    expect(farthest(parts[0]!.mesh.positions)).toBeLessThan(0.001);
    // Cut inside what is packed: said, not thrown somewhere.
    const damaged = bytes.slice();
    damaged.fill(0xff, damaged.length - 400);
    await expect(readMeshFile('stone.glb', damaged)).rejects.toThrow(/^The (GLB )?file is damaged|cannot be used/);
  });

  it('by meshopt are read', async () => {
    await MeshoptEncoder.ready;
    const document = plain();
    document.createExtension(EXTMeshoptCompression).setRequired(true);
    const io = new NodeIO().registerExtensions([EXTMeshoptCompression]);
    io.registerDependencies({ 'meshopt.encoder': MeshoptEncoder });
    const { parts } = await readMeshFile('stone.glb', await io.writeBinary(document));
    expect(parts[0]!.mesh.positions).toEqual(stone.positions);
  });

  it('in a way that is not known are refused by its name', async () => {
    const json = JSON.stringify({ asset: { version: '2.0' }, extensionsRequired: ['EXT_made_up'] });
    await expect(readMeshFile('x.gltf', new TextEncoder().encode(json))).rejects.toThrow(/EXT_made_up/);
  });
});

describe('glTF that is not what it should be', () => {
  const gltf = (json: object) => readMeshFile('x.gltf', new TextEncoder().encode(JSON.stringify(json)));

  it.each([
    ['version 1', { asset: { version: '1.0' }, meshes: { a: {} } }, /version 1\.0; Lumbra reads version 2/],
    ['no version', { meshes: [] }, /says nothing of its version/],
    [
      'a mesh without primitives',
      { asset: { version: '2.0' }, meshes: [{ name: 'a', primitives: [] }] },
      /mesh 1 has no primitives/,
    ],
    ['meshes that are no list', { asset: { version: '2.0' }, meshes: { a: 1 } }, /meshes: must be a list/],
    [
      'a node that hangs on itself',
      { asset: { version: '2.0' }, nodes: [{ children: [1] }, { children: [0] }] },
      /hangs on itself/,
    ],
    [
      'an accessor that is not there',
      { asset: { version: '2.0' }, meshes: [{ primitives: [{ attributes: { POSITION: 3 } }] }] },
      /names accessor 3, and there are 0/,
    ],
    [
      'points that it does not hold',
      { asset: { version: '2.0' }, accessors: [{ componentType: 5126, count: 9e7, type: 'VEC3' }] },
      /does not hold/,
    ],
  ])('%s is refused with a sentence', async (_, json, words) => {
    await expect(gltf(json)).rejects.toThrow(words);
  });

  it('as a binary file of version 1 is refused by its version', async () => {
    const bytes = new Uint8Array(24);
    new DataView(bytes.buffer).setUint32(0, 0x46546c67, true);
    new DataView(bytes.buffer).setUint32(4, 1, true);
    await expect(readMeshFile('old.glb', bytes)).rejects.toThrow(/version 1\.0/);
  });
});

describe('texts', () => {
  const cube = box({ size: [1, 2, 3] });
  const text = writeObj([{ name: 'Crate', mesh: cube }]);
  const wide = (of: string, big: boolean, mark: boolean) => {
    const bytes = new Uint8Array((of.length + (mark ? 1 : 0)) * 2);
    const view = new DataView(bytes.buffer);
    [...(mark ? '\ufeff' : ''), ...of].forEach((letter, i) => view.setUint16(i * 2, letter.charCodeAt(0), !big));
    return bytes;
  };

  it.each([
    ['little-endian', false, true],
    ['big-endian', true, true],
    ['little-endian without a mark', false, false],
  ])('in UTF-16, %s, are read', async (_, big, mark) => {
    const { parts } = await readMeshFile('crate.obj', wide(text, big, mark));
    expect(parts[0]!.name).toBe('Crate');
    expect(parts[0]!.mesh.positions).toEqual(cube.positions);
  });

  it('of a PLY file may say anything in remarks, which are printed nowhere', async () => {
    const log = vi.spyOn(console, 'log').mockImplementation(() => undefined);
    const header = 'ply\nformat ascii 1.0\ncomment made by hand\nobj_info 3 things\nunheard of line\n';
    const body =
      'element vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n';
    const { parts } = await readMeshFile('a.ply', new TextEncoder().encode(header + body));
    expect([...parts[0]!.mesh.positions]).toEqual([0, 0, 0, 1, 0, 0, 0, 1, 0]);
    expect(log).not.toHaveBeenCalled();
    const utf16 = await readMeshFile('a.ply', wide(header + body, false, true));
    expect(utf16.parts[0]!.mesh.triangles).toHaveLength(3);
    log.mockRestore();
  });
});
