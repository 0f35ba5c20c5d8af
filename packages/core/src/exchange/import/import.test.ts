import { Document, NodeIO } from '@gltf-transform/core';
import { describe, expect, it } from 'vitest';
import { bounds, size } from '../../mesh/bounds';
import { inspectMesh } from '../../mesh/inspectMesh';
import type { Mesh } from '../../mesh/mesh';
import { clipSeconds, movedPoints } from '../../mesh/movedPoints';
import { ball } from '../../mesh/shapes/ball';
import { box } from '../../mesh/shapes/box';
import { isClosed, topology } from '../../mesh/topology';
import { writeGlb } from '../glbWrite';
import { writeObj } from '../objWrite';
import { findings, likelyUnit, prepareMesh } from './prepareMesh';
import { readMeshFile } from './readMeshFile';

const bytesOf = (text: string) => new TextEncoder().encode(text);
const cube = box({ size: [1, 2, 3] });

function stl({ positions, triangles }: Mesh): Uint8Array {
  const bytes = new Uint8Array(84 + (triangles.length / 3) * 50);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, triangles.length / 3, true);
  triangles.forEach((point, i) => {
    for (let axis = 0; axis < 3; axis++)
      view.setFloat32(84 + Math.floor(i / 3) * 50 + 12 + (i % 3) * 12 + axis * 4, positions[point * 3 + axis]!, true);
  });
  return bytes;
}

function ply({ positions, triangles }: Mesh): string {
  const rows = (list: ArrayLike<number>, before = '') =>
    Array.from({ length: list.length / 3 }, (_, i) => before + [0, 1, 2].map((k) => list[i * 3 + k]).join(' ')).join(
      '\n',
    );
  return `ply\nformat ascii 1.0\nelement vertex ${positions.length / 3}\nproperty float x\nproperty float y\nproperty float z\nelement face ${triangles.length / 3}\nproperty list uchar int vertex_indices\nend_header\n${rows(positions)}\n${rows(triangles, '3 ')}\n`;
}

/** A GLB of one triangle on a bar of two bones, of which a clip turns the second by 90° about z in a second. */
async function skinned(
  change: (json: { skins: { joints: number[] }[] }) => void = () => undefined,
): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const floats = (type: 'VEC3' | 'VEC4' | 'MAT4' | 'SCALAR', values: number[]) =>
    document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer);
  const root = document.createNode('root');
  const tip = document.createNode('tip').setTranslation([0, 1, 0]);
  root.addChild(tip);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', floats('VEC3', [0, 0, 0, 0.2, 0, 0, 0, 2, 0]))
    .setAttribute(
      'JOINTS_0',
      document
        .createAccessor()
        .setType('VEC4')
        .setArray(new Uint8Array([0, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0]))
        .setBuffer(buffer),
    )
    .setAttribute('WEIGHTS_0', floats('VEC4', [1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]));
  const inverse = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  const second = [...inverse];
  second[13] = -1;
  const skin = document
    .createSkin('bar')
    .addJoint(root)
    .addJoint(tip)
    .setInverseBindMatrices(floats('MAT4', [...inverse, ...second]));
  const mesh = document.createNode('Flap').setMesh(document.createMesh().addPrimitive(primitive)).setSkin(skin);
  const half = Math.SQRT1_2;
  const sampler = document
    .createAnimationSampler()
    .setInput(floats('SCALAR', [0, 1]))
    .setOutput(floats('VEC4', [0, 0, 0, 1, 0, 0, half, half]));
  const channel = document.createAnimationChannel().setSampler(sampler).setTargetNode(tip).setTargetPath('rotation');
  document.createAnimation('Wave').addSampler(sampler).addChannel(channel);
  document.createScene().addChild(root).addChild(mesh);
  const io = new NodeIO();
  const json = await io.writeJSON(document, {});
  change(json.json as never);
  return glbOf(json.json, Object.values(json.resources)[0]!);
}

function glbOf(json: object, binary: Uint8Array): Uint8Array {
  delete ((json as { buffers: { uri?: string }[] }).buffers[0] as { uri?: string }).uri;
  const text = bytesOf(JSON.stringify(json));
  const [a, b] = [Math.ceil(text.length / 4) * 4, Math.ceil(binary.length / 4) * 4];
  const bytes = new Uint8Array(28 + a + b).fill(0x20, 20, 20 + a);
  const view = new DataView(bytes.buffer);
  [0x46546c67, 2, bytes.length, a, 0x4e4f534a].forEach((value, i) => view.setUint32(i * 4, value, true));
  bytes.set(text, 20);
  view.setUint32(20 + a, b, true);
  view.setUint32(24 + a, 0x004e4942, true);
  bytes.set(binary, 28 + a);
  return bytes;
}

describe('reading mesh files', () => {
  it.each([
    ['cube.obj', () => Promise.resolve(bytesOf(writeObj([{ name: 'Cube', mesh: cube }])))],
    ['cube.glb', () => writeGlb([{ name: 'Cube', mesh: cube }], { frameRate: 24 })],
    ['cube.stl', () => Promise.resolve(stl(cube))],
    ['cube.ply', () => Promise.resolve(bytesOf(ply(cube)))],
  ] as const)('%s gives the same closed box', async (name, make) => {
    const { parts } = await readMeshFile(name, await make());
    expect(parts).toHaveLength(1);
    const report = inspectMesh(parts[0]!.mesh);
    expect(report).toMatchObject({ triangles: 12, borders: 0, nonManifoldEdges: 0, flippedEdges: 0, insideOut: false });
    report.size.forEach((side, axis) => expect(side).toBeCloseTo([1, 2, 3][axis]!, 5));
    const mended = prepareMesh(parts[0]!.mesh, { unit: 0.01, up: 'y', repairs: ['weld'] });
    expect(isClosed(topology(mended.mesh))).toBe(true);
    size(bounds(mended.mesh.positions)!).forEach((side, axis) =>
      expect(side).toBeCloseTo([0.01, 0.02, 0.03][axis]!, 6),
    );
    expect(bounds(mended.mesh.positions)!.low[1]).toBe(0);
  });

  it('keeps the objects of an OBJ apart', async () => {
    const two = writeObj([
      { name: 'Cube', mesh: cube },
      { name: 'Ball', mesh: ball({ radius: 1, detail: 1 }) },
    ]);
    const { parts } = await readMeshFile('two.obj', bytesOf(two));
    expect(parts.map(({ name, mesh }) => [name, mesh.positions.length / 3])).toEqual([
      ['Cube', 8],
      ['Ball', 42],
    ]);
  });

  it('turns a z-up mesh upright', () => {
    const { mesh } = prepareMesh(cube, { unit: 1, up: 'z', repairs: [] });
    size(bounds(mesh.positions)!).forEach((side, axis) => expect(side).toBeCloseTo([1, 3, 2][axis]!, 5));
    expect(inspectMesh(mesh).insideOut).toBe(false);
  });

  it('plays a skin: the second bone carries its points around', async () => {
    const { parts, clips } = await readMeshFile('flap.glb', await skinned());
    expect(clips).toEqual(['Wave']);
    const { mesh } = parts[0]!;
    expect([...mesh.positions.subarray(6, 9)]).toEqual([0, 2, 0]);
    const clip = mesh.motion!.clips[0]!;
    expect(clipSeconds(clip)).toBeCloseTo(1, 9);
    const end = movedPoints(mesh, clip, 1, false);
    [0, 0, 0, 0.2, 0, 0, -1, 1, 0].forEach((value, i) => expect(end[i]).toBeCloseTo(value, 5));
    const middle = movedPoints(mesh, clip, 0.5, false);
    expect(middle[6]).toBeCloseTo(-Math.SQRT1_2, 3);
    expect(movedPoints(mesh, clip, 1.25, true)[6]).toBeCloseTo(movedPoints(mesh, clip, 0.25, false)[6]!, 5);
    // Upright, in cm, and around its foot: the motion comes along.
    const { mesh: staged, center } = prepareMesh(mesh, { unit: 0.01, up: 'y', repairs: ['weld'] });
    const moved = movedPoints(staged, staged.motion!.clips[0]!, 1, false);
    expect(moved[6]! + center[0]).toBeCloseTo(-0.01, 6);
    expect(moved[7]! + center[1]).toBeCloseTo(0.01, 6);
  });

  it('plays morph targets and moving nodes', async () => {
    const positions = [cube.positions, cube.positions.map((v, i) => (i % 3 === 1 ? v + 1 : v))];
    const glb = await writeGlb([{ name: 'Cube', mesh: cube, frames: positions }], { frameRate: 10 } as never);
    const { parts } = await readMeshFile('cube.glb', glb);
    const { mesh } = parts[0]!;
    const clip = mesh.motion!.clips[0]!;
    const high = (seconds: number) => bounds(movedPoints(mesh, clip, seconds, false))!.high[1];
    expect(high(0)).toBeCloseTo(1, 5);
    expect(high(clipSeconds(clip))).toBeCloseTo(2, 5);
  });
});

describe('mending', () => {
  it('names what is wrong and mends it', () => {
    const flipped = cube.triangles.slice();
    flipped.set([flipped[0]!, flipped[2]!, flipped[1]!], 0);
    const split: Mesh = {
      positions: new Float32Array([...flipped].flatMap((p) => [...cube.positions.subarray(p * 3, p * 3 + 3)])),
      triangles: Uint32Array.from(flipped, (_, i) => i),
    };
    const report = inspectMesh(split);
    expect(report).toMatchObject({ duplicatePoints: 28, flippedEdges: 3, borders: 0 });
    const found = findings(report);
    expect(found.map(({ repair }) => repair)).toEqual(['weld', 'turn faces']);
    const { mesh } = prepareMesh(split, { unit: 1, up: 'y', repairs: found.map(({ repair }) => repair) });
    expect(inspectMesh(mesh)).toMatchObject({ points: 8, duplicatePoints: 0, flippedEdges: 0, insideOut: false });
  });

  it('turns a mesh right side out, closes a hole and parts a crowded edge', () => {
    const inside: Mesh = { ...cube, triangles: cube.triangles.slice().reverse() };
    expect(inspectMesh(inside).insideOut).toBe(true);
    expect(inspectMesh(prepareMesh(inside, { unit: 1, up: 'y', repairs: ['turn faces'] }).mesh).insideOut).toBe(false);
    const open: Mesh = { ...cube, triangles: cube.triangles.slice(6) };
    expect(inspectMesh(open).borders).toBe(1);
    const closed = prepareMesh(open, { unit: 1, up: 'y', repairs: ['close borders'] }).mesh;
    expect(isClosed(topology(closed))).toBe(true);
    const crowded: Mesh = {
      positions: new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 1]),
      triangles: new Uint32Array([0, 1, 2, 1, 0, 3, 0, 1, 4]),
    };
    expect(inspectMesh(crowded).nonManifoldEdges).toBe(1);
    expect(topology(prepareMesh(crowded, { unit: 1, up: 'y', repairs: ['split edges'] }).mesh).nonManifoldEdges).toBe(
      0,
    );
  });

  it('guesses a unit by size', () => {
    expect(likelyUnit(1.8).name).toBe('m');
    expect(likelyUnit(180).name).toBe('cm');
    expect(likelyUnit(18000).name).toBe('mm');
  });
});

describe('files that cannot be used', () => {
  const nan = stl(cube);
  new DataView(nan.buffer).setFloat32(96, NaN, true);
  it.each<[string, string, () => Promise<Uint8Array> | Uint8Array, RegExp]>([
    ['an empty file', 'a.obj', () => new Uint8Array(), /The file is empty/],
    [
      'a GLB cut short',
      'a.glb',
      async () => (await skinned()).slice(0, 200),
      /cut short: it should have \d+ bytes and has 200/,
    ],
    [
      'an OBJ with missing points',
      'a.obj',
      () => bytesOf('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n'),
      /face at point 9, but only 3/,
    ],
    ['an OBJ with a word for a number', 'a.obj', () => bytesOf('v 0 0 0\nv 1 0 x\n'), /Line 2 of the OBJ file/],
    ['an STL cut short', 'a.stl', () => stl(cube).slice(0, 300), /12 faces need 684 bytes and it has 300/],
    [
      'an STL with a point that is no number',
      'a.stl',
      () => nan,
      /Face 1 of the STL file has a corner that is not a number/,
    ],
    ['a PLY cut short', 'a.ply', () => bytesOf(ply(cube).slice(0, 250)), /PLY file is cut short/],
    [
      'a skin with missing joints',
      'a.glb',
      () => skinned((json) => (json.skins[0]!.joints[1] = 44)),
      /names joint 44, and the file has only 3 nodes/,
    ],
    [
      'a skin with too few joints',
      'a.glb',
      () => skinned((json) => json.skins[0]!.joints.pop()),
      /point 3 hangs on joint 2 of 1/,
    ],
    ['a drawing', 'a.svg', () => bytesOf('<svg xmlns="x"></svg>'), /a drawing \(SVG\), not a mesh/],
    ['a picture', 'a.obj', () => new Uint8Array([0x89, 0x50, 0x4e, 0x47, 13, 10]), /a picture, not a mesh/],
    ['another kind of file', 'a.txt', () => bytesOf('hello'), /reads meshes from OBJ, GLB, glTF, STL, PLY and USD/],
    [
      'a glTF without its buffer',
      'a.gltf',
      () => bytesOf('{"asset":{"version":"2.0"},"buffers":[{"uri":"a.bin","byteLength":4}]}'),
      /needs “a.bin”. Choose both files/,
    ],
  ])('%s', async (_, name, bytes, words) => {
    await expect(Promise.resolve(bytes()).then((given) => readMeshFile(name, given))).rejects.toThrow(words);
  });

  it('a missing picture is no reason to refuse a mesh', async () => {
    const bytes = await skinned((json) =>
      Object.assign(json, { images: [{ uri: 'rope.png' }], textures: [{ source: 0 }] }),
    );
    const { notes } = await readMeshFile('a.glb', bytes);
    expect(notes).toEqual(['The picture “rope.png” is missing; the mesh comes without it.']);
  });
});
