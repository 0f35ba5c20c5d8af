import { scaleOf } from '../fabric/faceScales';
import { boxTree } from '../mesh/boxTree';
import type { Mesh } from '../mesh/mesh';
import { oncePerMesh } from '../mesh/oncePerMesh';
import type { Topology } from '../mesh/topology';
import type { KernelMemory } from './kernelMemory';
import type { LayeredCloth } from './layeredCloth';

// What kernel/assembly/layers reads of the cloths: trees of boxes, neighbours, and rest places. Written once; the layouts
// are in kernel/assembly/layers/data.ts.

const NODE_WORDS = 16;
const CLOTH_WORDS = 8;
/** Marks a triangle that passes through its own cloth. */
const PASSES = 64;
/** Cloths lie this far apart at rest, in m: what is near in one is not near what is cut alike in another. */
const APART = 64;

/** Where a cloth's points are when nothing acts on it: flat, where it was cut flat. */
function restPositions({ material, positions }: Mesh): Float32Array {
  if (!material) return positions;
  const flat = new Float32Array((material.length / 2) * 3);
  for (let i = 0; i < material.length / 2; i++) flat.set([material[i * 2]!, 0, material[i * 2 + 1]!], i * 3);
  return flat;
}

/** The lengths of all edges in m, the shortest first. */
function edgeLengths(rest: Float32Array, t: Topology): Float64Array {
  const lengths = new Float64Array(t.edgeCount);
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const [a, b] = [t.edgePoints[edge * 2]! * 3, t.edgePoints[edge * 2 + 1]! * 3];
    const [x, y, z] = [rest[a]! - rest[b]!, rest[a + 1]! - rest[b + 1]!, rest[a + 2]! - rest[b + 2]!];
    lengths[edge] = Math.sqrt(x * x + y * y + z * z);
  }
  return lengths.sort();
}

/** Rest places; the fourth number tells that neighbours may be nearer than twice the thickness at rest. */
export function writeRest(memory: KernelMemory, address: number, cloths: readonly LayeredCloth[]): void {
  for (const [c, { rest, topology: t, firstPoint, points, thickness }] of cloths.entries()) {
    const places = restPositions(rest);
    const values = memory.floats(address + firstPoint * 16, points * 4);
    // The height of a triangle is at least about half of its shortest edge on meshes fit for cloth.
    const dense = edgeLengths(places, t)[0]! < 4.5 * thickness ? 1 : 0;
    for (let i = 0; i < points; i++) {
      values.set([places[i * 3]!, places[i * 3 + 1]! + c * APART, places[i * 3 + 2]!, dense], i * 4);
    }
  }
}

/** Starts, then entries, of one list a point. */
function writeLists(memory: KernelMemory, lists: readonly (readonly number[])[]): number {
  const total = lists.reduce((sum, list) => sum + list.length, 0);
  const address = memory.allocate((lists.length + 1 + total) * 4);
  const values = memory.integers(address, lists.length + 1 + total);
  let at = 0;
  lists.forEach((list, i) => {
    values[i] = at;
    values.set(list, lists.length + 1 + at);
    at += list.length;
  });
  values[lists.length] = at;
  return address;
}

/** Each point and its neighbours along edges, as byte offsets. */
export function writeRings(memory: KernelMemory, cloths: readonly LayeredCloth[], count: number): number {
  const rings = Array.from({ length: count }, (_, point) => [point * 16]);
  for (const { topology: t, firstPoint } of cloths) {
    for (let edge = 0; edge < t.edgeCount; edge++) {
      const [a, b] = [firstPoint + t.edgePoints[edge * 2]!, firstPoint + t.edgePoints[edge * 2 + 1]!];
      rings[a]!.push(b * 16);
      rings[b]!.push(a * 16);
    }
  }
  return writeLists(memory, rings);
}

/** The triangles around each point, numbered over all cloths. */
export function writeFaces(memory: KernelMemory, cloths: readonly LayeredCloth[], count: number): number {
  const around = Array.from({ length: count }, () => [] as number[]);
  let first = 0;
  for (const { rest, firstPoint } of cloths) {
    rest.triangles.forEach((point, i) => around[firstPoint + point]!.push(first + Math.floor(i / 3)));
    first += rest.triangles.length / 3;
  }
  return writeLists(memory, around);
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
  const numbers = memory.floats(forest.triangles, triangleCount * 8);
  let [firstFace, firstNode] = [0, 0];
  cloths.forEach((cloth, c) => {
    const tree = trees[c]!;
    const { rest, topology: t, firstPoint } = cloth;
    writeTriangles(records, numbers, cloth, c, firstFace);
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
    const clothAt = memory.integers(forest.cloths + c * 32, CLOTH_WORDS);
    clothAt.set([firstPoint, cloth.points, firstNode, 0]);
    // The middle one: a single sliver must not shorten how far the whole cloth is looked ahead for.
    const lengths = edgeLengths(restPositions(rest), t);
    const spacing = lengths[lengths.length >> 1]!;
    memory.floats(forest.cloths + c * 32, CLOTH_WORDS).set([cloth.farthest, spacing], 4);
    firstFace += rest.triangles.length / 3;
    firstNode += tree.nodeCount;
  });
  return forest;
}

/** Every point and edge belongs to the first triangle that has it, so that each pair of features is met once. */
function writeTriangles(
  records: Uint32Array,
  numbers: Float32Array,
  { rest, topology: t, firstPoint, points, thickness, friction, scales, passing }: LayeredCloth,
  cloth: number,
  firstFace: number,
): void {
  const pointTaken = new Uint8Array(points);
  const edgeTaken = new Uint8Array(t.edgeCount);
  for (let face = 0; face < rest.triangles.length / 3; face++) {
    const at = (firstFace + face) * 8;
    let owned = passing?.[face] === 1 ? PASSES : 0;
    for (let corner = 0; corner < 3; corner++) {
      const point = rest.triangles[face * 3 + corner]!;
      const edge = t.faceEdges[face * 3 + corner]!;
      records[at + corner] = (firstPoint + point) * 16;
      if (!pointTaken[point]) owned |= 1 << corner;
      if (!edgeTaken[edge]) owned |= 8 << corner;
      pointTaken[point] = edgeTaken[edge] = 1;
    }
    records[at + 3] = owned;
    numbers[at + 4] = (thickness / 2) * scaleOf(scales, 'thickness', face);
    numbers[at + 5] = Math.sqrt(friction * scaleOf(scales, 'friction', face));
    records[at + 7] = cloth;
  }
}
