import { scaleOf } from '../../fabric/faceScales';
import { boxTree } from '../../mesh/boxTree';
import type { Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import { facesAround, ringsOf, type PointLists } from '../../mesh/pointLists';
import { topology } from '../../mesh/topology';
import type { KernelMemory } from '../kernelMemory';
import type { LayeredCloth } from './layeredCloth';

// What kernel/assembly/layers reads of the cloths: trees of boxes, neighbours, and rest places. Written once; the layouts
// are in kernel/assembly/layers/data.ts.

const NODE_WORDS = 16;
const CLOTH_WORDS = 8;
/** Marks a triangle that passes through its own cloth. */
const PASSES = 64;
/** Cloths lie this far apart at rest, in m: what is near in one is not near what is cut alike in another. */
const APART = 64;

/** Where a cloth's points are when nothing acts on it: flat, where it was cut flat; as it is laid, where it is folded of itself. */
function restPositions({ material, positions, folds }: Mesh): Float32Array {
  if (!material || folds) return positions;
  const flat = new Float32Array((material.length / 2) * 3);
  for (let i = 0; i < material.length / 2; i++) flat.set([material[i * 2]!, 0, material[i * 2 + 1]!], i * 3);
  return flat;
}

/** The lengths of all edges of a cloth at rest in m, the shortest first. */
const edgeLengths = oncePerMesh((mesh): Float64Array => {
  const [rest, t] = [restPositions(mesh), topology(mesh)];
  const lengths = new Float64Array(t.edgeCount);
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const [a, b] = [t.edgePoints[edge * 2]! * 3, t.edgePoints[edge * 2 + 1]! * 3];
    const [x, y, z] = [rest[a]! - rest[b]!, rest[a + 1]! - rest[b + 1]!, rest[a + 2]! - rest[b + 2]!];
    lengths[edge] = Math.sqrt(x * x + y * y + z * z);
  }
  return lengths.sort();
});

/** Rest places; the fourth number tells that neighbours may be nearer than twice the thickness at rest. */
export function writeRest(memory: KernelMemory, address: number, cloths: readonly LayeredCloth[]): void {
  for (const [c, { rest, firstPoint, points, thickness }] of cloths.entries()) {
    const places = restPositions(rest);
    const values = memory.floats(address + firstPoint * 16, points * 4);
    // The height of a triangle is at least about half of its shortest edge on meshes fit for cloth.
    // Beside a fold they are nearer the sharper it is.
    const dense = rest.folds || edgeLengths(rest)[0]! < 4.5 * thickness ? 1 : 0;
    for (let i = 0; i < points; i++) {
      values[i * 4] = places[i * 3]!;
      values[i * 4 + 1] = places[i * 3 + 1]! + c * APART;
      values[i * 4 + 2] = places[i * 3 + 2]!;
      values[i * 4 + 3] = dense;
    }
  }
}

/** Starts, then entries, of one list a point; entries of a cloth are counted from `first`, times `bytes`. */
function writeLists(
  memory: KernelMemory,
  cloths: readonly { lists: PointLists; first: number }[],
  count: number,
  bytes: number,
): number {
  const total = cloths.reduce((sum, { lists }) => sum + lists.entries.length, 0);
  const address = memory.allocate((count + 1 + total) * 4);
  const values = memory.integers(address, count + 1 + total);
  let [point, at] = [0, 0];
  for (const { lists, first } of cloths) {
    const { starts, entries } = lists;
    for (let i = 0; i + 1 < starts.length; i++) values[point++] = at + starts[i]!;
    for (let i = 0; i < entries.length; i++) values[count + 1 + at + i] = (first + entries[i]!) * bytes;
    at += entries.length;
  }
  values[count] = at;
  return address;
}

/** Each point and its neighbours along edges, as byte offsets. */
export function writeRings(memory: KernelMemory, cloths: readonly LayeredCloth[], count: number): number {
  const lists = cloths.map(({ rest, firstPoint }) => ({ lists: ringsOf(rest), first: firstPoint }));
  return writeLists(memory, lists, count, 16);
}

/** The triangles around each point, numbered over all cloths. */
export function writeFaces(memory: KernelMemory, cloths: readonly LayeredCloth[], count: number): number {
  let faces = 0;
  const lists = cloths.map(({ rest }) => {
    const first = faces;
    faces += rest.triangles.length / 3;
    return { lists: facesAround(rest), first };
  });
  return writeLists(memory, lists, count, 1);
}

export interface Forest {
  triangles: number;
  nodes: number;
  parents: number;
  cloths: number;
  triangleCount: number;
  nodeCount: number;
}

/** The tree of a cloth, on its rest shape, with one face in each leaf. */
const restTree = oncePerMesh((rest) => boxTree({ ...rest, positions: restPositions(rest) }, 1));

/** One tree a cloth; the layouts are in kernel/assembly/layers/data.ts. */
export function writeForest(memory: KernelMemory, cloths: readonly LayeredCloth[]): Forest {
  const trees = cloths.map(({ rest }) => restTree(rest));
  const triangleCount = cloths.reduce((sum, { rest }) => sum + rest.triangles.length / 3, 0);
  const nodeCount = trees.reduce((sum, tree) => sum + tree.nodeCount, 0);
  const forest = {
    triangles: memory.allocate(triangleCount * 32),
    nodes: memory.allocate(nodeCount * NODE_WORDS * 4),
    parents: memory.allocate(nodeCount * 4),
    cloths: memory.allocate(cloths.length * CLOTH_WORDS * 4),
    triangleCount,
    nodeCount,
  };
  const nodes = memory.integers(forest.nodes, nodeCount * NODE_WORDS);
  const parents = new Int32Array(memory.integers(forest.parents, nodeCount).buffer, forest.parents, nodeCount);
  const records = memory.integers(forest.triangles, triangleCount * 8);
  let [firstFace, firstNode] = [0, 0];
  cloths.forEach((cloth, c) => {
    const tree = trees[c]!;
    const { rest, firstPoint } = cloth;
    writeTriangles(records, cloth, c, firstFace);
    parents[firstNode] = -1;
    for (let node = 0; node < tree.nodeCount; node++) {
      const at = (firstNode + node) * NODE_WORDS;
      const leaf = tree.count[node]! > 0;
      const face = firstFace + tree.faces[tree.first[node]!]!;
      nodes[at + 3] = leaf ? face : firstNode + tree.first[node]!;
      nodes[at + 7] = leaf ? 1 : 0;
      if (leaf) records[face * 8 + 6] = firstNode + node;
      else for (const child of [0, 1]) parents[firstNode + tree.first[node]! + child] = firstNode + node;
    }
    memory.integers(forest.cloths + c * 32, CLOTH_WORDS).set([firstPoint, cloth.points, firstNode, 0]);
    firstFace += rest.triangles.length / 3;
    firstNode += tree.nodeCount;
  });
  setDistances(memory, forest, cloths);
  return forest;
}

/** Sets how far the faces of cloths keep apart, how rough they are, and which pass through their own cloth. */
export function setDistances(
  memory: KernelMemory,
  { triangles, cloths: records }: Pick<Forest, 'triangles' | 'cloths'>,
  cloths: readonly LayeredCloth[],
): void {
  let firstFace = 0;
  cloths.forEach(({ rest, thickness, farthest, friction, scales, passing }, c) => {
    const faces = rest.triangles.length / 3;
    const numbers = memory.floats(triangles + firstFace * 32, faces * 8);
    const flags = memory.integers(triangles + firstFace * 32, faces * 8);
    for (let face = 0; face < faces; face++) {
      const at = face * 8;
      numbers[at + 4] = (thickness / 2) * scaleOf(scales, 'thickness', face);
      numbers[at + 5] = Math.sqrt(friction * scaleOf(scales, 'friction', face));
      flags[at + 3] = (flags[at + 3]! & ~PASSES) | (passing?.[face] === 1 ? PASSES : 0);
    }
    // The middle one: a single sliver must not shorten how far the whole cloth is looked ahead for.
    const lengths = edgeLengths(rest);
    const spacing = lengths[lengths.length >> 1]!;
    memory.floats(records + c * 32, CLOTH_WORDS).set([farthest, spacing], 4);
    firstFace += faces;
  });
}

/** Every point and edge belongs to the first triangle that has it, so that each pair of features is met once. */
function writeTriangles(
  records: Uint32Array,
  { rest, firstPoint, points }: LayeredCloth,
  cloth: number,
  firstFace: number,
): void {
  const t = topology(rest);
  const pointTaken = new Uint8Array(points);
  const edgeTaken = new Uint8Array(t.edgeCount);
  for (let face = 0; face < rest.triangles.length / 3; face++) {
    const at = (firstFace + face) * 8;
    let owned = 0;
    for (let corner = 0; corner < 3; corner++) {
      const point = rest.triangles[face * 3 + corner]!;
      const edge = t.faceEdges[face * 3 + corner]!;
      records[at + corner] = (firstPoint + point) * 16;
      if (!pointTaken[point]) owned |= 1 << corner;
      if (!edgeTaken[edge]) owned |= 8 << corner;
      pointTaken[point] = edgeTaken[edge] = 1;
    }
    records[at + 3] = owned;
    records[at + 7] = cloth;
  }
}
