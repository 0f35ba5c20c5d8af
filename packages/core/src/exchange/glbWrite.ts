import {
  Document,
  WebIO,
  type Accessor,
  type Buffer as GltfBuffer,
  type Material,
  type Node,
  TextureInfo,
} from '@gltf-transform/core';
import { KHRTextureTransform } from '@gltf-transform/extensions';
import type { Mesh } from '../mesh/mesh';
import { pointNormals } from '../mesh/normals';
import { linearLight } from '../print/linearLight';
import { printPicture } from '../print/printPicture';
import { isOnce, printPlace } from '../print/printPlace';
import type { Print } from '../shot/things';

export interface GlbObject {
  name: string;
  mesh: Mesh;
  /** RRGGBB as shown, with a leading #. */
  colour?: string;
  /** What it is printed with; it lies on the material coordinates. */
  print?: Print;
  /** Positions at each frame (x y z in metres); without them the object stands still. */
  frames?: readonly Float32Array[];
}

export interface GlbOptions {
  frameRate: number;
}

/**
 * Binary glTF 2.0 in metres, y up. Moving objects have one morph target a frame, positions and normals, and an
 * animation of their weights that shows one frame after the other.
 */
export async function writeGlb(objects: readonly GlbObject[], options: GlbOptions): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Lumbra';
  const buffer = document.createBuffer();
  const scene = document.createScene('Shot');
  for (const object of objects) scene.addChild(addObject(document, buffer, object, options));
  return new WebIO().registerExtensions([KHRTextureTransform]).writeBinary(document);
}

function addObject(document: Document, buffer: GltfBuffer, object: GlbObject, options: GlbOptions): Node {
  const { name, mesh, frames = [] } = object;
  const accessor = (type: 'VEC3' | 'VEC2' | 'SCALAR', array: Float32Array | Uint32Array): Accessor =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const base = frames[0] ?? mesh.positions;
  const baseNormals = unitNormals(base, mesh);
  const material = document
    .createMaterial(name)
    .setDoubleSided(true)
    .setRoughnessFactor(0.9)
    .setMetallicFactor(0)
    .setBaseColorFactor([...linearLight(object.colour ?? '#B8B0A0'), 1]);
  if (object.print && mesh.material) addPrint(document, material, object.print);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', Float32Array.from(base)))
    .setAttribute('NORMAL', accessor('VEC3', baseNormals))
    .setIndices(accessor('SCALAR', Uint32Array.from(mesh.triangles)))
    .setMaterial(material);
  if (mesh.material) primitive.setAttribute('TEXCOORD_0', accessor('VEC2', Float32Array.from(mesh.material)));
  const gltfMesh = document.createMesh(name).addPrimitive(primitive);
  const node = document.createNode(name).setMesh(gltfMesh);
  if (frames.length < 2) return node;

  const moving = frames.slice(1);
  moving.forEach((positions, i) => {
    const target = document
      .createPrimitiveTarget(`frame ${i + 2}`)
      .setAttribute(
        'POSITION',
        accessor(
          'VEC3',
          positions.map((value, k) => value - base[k]!),
        ),
      )
      .setAttribute(
        'NORMAL',
        accessor(
          'VEC3',
          unitNormals(positions, mesh).map((value, k) => value - baseNormals[k]!),
        ),
      );
    primitive.addTarget(target);
  });
  const still = new Array<number>(moving.length).fill(0);
  gltfMesh.setWeights(still).setExtras({ targetNames: moving.map((_, i) => `frame ${i + 2}`) });
  const times = Float32Array.from(frames, (_, i) => i / options.frameRate);
  const weights = new Float32Array(frames.length * moving.length);
  for (let i = 1; i < frames.length; i++) weights[i * moving.length + i - 1] = 1;
  const sampler = document
    .createAnimationSampler()
    .setInput(accessor('SCALAR', times))
    .setOutput(accessor('SCALAR', weights))
    .setInterpolation('LINEAR');
  const channel = document.createAnimationChannel().setTargetNode(node).setTargetPath('weights').setSampler(sampler);
  document.createAnimation(name).addSampler(sampler).addChannel(channel);
  return node;
}

/** Normals that are all of unit length, as glTF demands: a point without faces gets the upward one. */
function unitNormals(positions: Float32Array, { triangles, sewn }: Mesh): Float32Array {
  const normals = pointNormals(positions, triangles, undefined, sewn);
  for (let i = 0; i < normals.length; i += 3) {
    if (normals[i] === 0 && normals[i + 1] === 0 && normals[i + 2] === 0) normals[i + 1] = 1;
  }
  return normals;
}

/** The picture of a print in place of the colour, repeated and placed as it lies. The second coordinate of glTF goes down its pictures. */
function addPrint(document: Document, material: Material, print: Print): void {
  const picture = printPicture(print, true);
  if (!picture) return;
  const texture = document.createTexture(print.kind).setImage(picture).setMimeType('image/png');
  material.setBaseColorTexture(texture).setBaseColorFactor([1, 1, 1, 1]);
  if (print.cutOut) material.setAlphaMode('MASK').setAlphaCutoff(0.5);
  const info = material.getBaseColorTextureInfo()!;
  if (isOnce(print)) {
    const wrap = TextureInfo.WrapMode['CLAMP_TO_EDGE']!;
    info.setWrapS(wrap).setWrapT(wrap);
  }
  const { scale, turn, move } = printPlace(print);
  const placed = document.createExtension(KHRTextureTransform).createTransform();
  // There a turn is the other way round, since the second coordinate points down.
  info.setExtension('KHR_texture_transform', placed.setScale([scale, scale]).setRotation(-turn).setOffset(move));
}
