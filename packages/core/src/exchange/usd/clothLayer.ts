import { bounds } from '../../mesh/bounds';
import { pointNormals } from '../../mesh/normals';
import { linearLight } from '../../print/linearLight';
import { printPicture } from '../../print/printPicture';
import type { HandedCloth, HandedFrame, HandedTake } from '../formats/format';
import { primName, type UsdAttribute, type UsdLayer, type UsdPrim, type UsdSample } from './layer';
import { printMaterial } from './printMaterial';

// Cloth as a layer: a mesh each under one root, with its places, normals, speeds and extents as a sample a frame, and what it is printed with.

/** A picture that a layer names. */
export interface LayerPicture {
  /** Beside the layer. */
  path: string;
  bytes: Uint8Array;
}

export interface ClothLayer {
  layer: UsdLayer;
  pictures: LayerPicture[];
  samples: AsyncIterable<UsdSample>;
}

/** The layer of a take: what does not change at once, the rest as frames come. */
export function clothLayer({ cloths, frames, frameRate, stem, space }: HandedTake): ClothLayer {
  const { metresPerUnit, up } = space ?? { metresPerUnit: 1, up: 'y' };
  const root = primName(stem);
  const names = primNames(cloths);
  const paths = names.map((name) => `/${root}/${name}`);
  const pictures: LayerPicture[] = [];
  const children = cloths.map((cloth, i): UsdPrim => {
    const mesh = meshPrim(cloth, names[i]!);
    const picture = cloth.mesh.material && cloth.print && printPicture(cloth.print);
    if (!cloth.print || !picture) return mesh;
    const path = `textures/${names[i]!}.png`;
    pictures.push({ path, bytes: picture });
    const material = printMaterial(cloth.print, path, `${paths[i]!}/Print`);
    return {
      ...mesh,
      schemas: ['MaterialBindingAPI'],
      relations: [{ name: 'material:binding', to: `${paths[i]!}/Print` }],
      children: [material],
    };
  });
  const layer: UsdLayer = {
    ...{ frameRate, metresPerUnit, up: up === 'y' ? 'Y' : 'Z' },
    root: { name: root, type: 'Xform', attributes: [], children },
  };
  return { layer, pictures, samples: samplesOf(frames, cloths, paths, frameRate) };
}

function meshPrim({ name, mesh, colour }: HandedCloth, prim: string): UsdPrim {
  const { triangles, material } = mesh;
  const attributes: UsdAttribute[] = [
    { name: 'subdivisionScheme', type: 'token', uniform: true, value: 'none' },
    { name: 'faceVertexCounts', type: 'int[]', value: new Int32Array(triangles.length / 3).fill(3) },
    { name: 'faceVertexIndices', type: 'int[]', value: Int32Array.from(triangles) },
    { name: 'points', type: 'point3f[]', sampled: true },
    { name: 'normals', type: 'normal3f[]', sampled: true, interpolation: 'vertex' },
    { name: 'velocities', type: 'vector3f[]', sampled: true },
    { name: 'extent', type: 'float3[]', sampled: true },
  ];
  if (colour) {
    const value = linearLight(colour);
    attributes.push({ name: 'primvars:displayColor', type: 'color3f[]', value, interpolation: 'constant' });
  }
  if (material)
    attributes.push({ name: 'primvars:st', type: 'texCoord2f[]', value: material, interpolation: 'vertex' });
  return { name: prim, type: 'Mesh', label: name, attributes };
}

/** One sample a frame; speeds ask for the frames on both sides, so each waits for the next. */
async function* samplesOf(
  frames: AsyncIterable<HandedFrame>,
  cloths: readonly HandedCloth[],
  paths: readonly string[],
  frameRate: number,
): AsyncGenerator<UsdSample> {
  const sample = (now: HandedFrame, after: HandedFrame | null, before: HandedFrame | null): UsdSample => {
    const values = new Map<string, Float32Array>();
    cloths.forEach(({ mesh }, i) => {
      const own = now.positions[i]!;
      const path = paths[i]!;
      values.set(`${path}.points`, own);
      values.set(`${path}.normals`, pointNormals(own, mesh.triangles, undefined, mesh.sewn));
      values.set(`${path}.velocities`, velocitiesOf(own, now.frame, after, before, i, frameRate));
      values.set(`${path}.extent`, extentOf(own));
    });
    return { frame: now.frame, values };
  };
  let before: HandedFrame | null = null;
  let now: HandedFrame | null = null;
  for await (const after of frames) {
    if (now) yield sample(now, after, before);
    [before, now] = [now, after];
  }
  if (now) yield sample(now, null, before);
}

/** How fast each point moves, in units a second: between the frames on both sides where there are both. */
function velocitiesOf(
  own: Float32Array,
  frame: number,
  after: HandedFrame | null,
  before: HandedFrame | null,
  cloth: number,
  frameRate: number,
): Float32Array {
  const later = after ?? { frame, positions: [] };
  const earlier = before ?? { frame, positions: [] };
  const seconds = (later.frame - earlier.frame) / frameRate;
  const speeds = new Float32Array(own.length);
  if (seconds === 0) return speeds;
  const [from, to] = [earlier.positions[cloth] ?? own, later.positions[cloth] ?? own];
  for (let i = 0; i < speeds.length; i++) speeds[i] = (to[i]! - from[i]!) / seconds;
  return speeds;
}

function extentOf(positions: Float32Array): Float32Array {
  const box = bounds(positions);
  return box ? Float32Array.of(...box.low, ...box.high) : new Float32Array(6);
}

/** The prims of cloths, each with a name of its own. */
function primNames(cloths: readonly HandedCloth[]): string[] {
  const taken = new Set<string>();
  return cloths.map(({ name }) => {
    const base = primName(name);
    let free = base;
    for (let n = 2; taken.has(free); n++) free = `${base}_${n}`;
    taken.add(free);
    return free;
  });
}
