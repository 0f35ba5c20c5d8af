import * as ClothRecord from '@lumbra/kernel/layouts/layers/layerCloth';
import * as Node from '@lumbra/kernel/layouts/layers/layerNode';
import * as Triangle from '@lumbra/kernel/layouts/layers/layerTriangle';
import * as Point from '@lumbra/kernel/layouts/point';
import { scaleOf } from '../../fabric/faceScales';
import { boxTree } from '../../mesh/boxTree';
import type { Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import { facesAround, ringsOf, type PointLists } from '../../mesh/pointLists';
import { topology } from '../../mesh/topology';
import type { KernelMemory } from '../kernelMemory';
import type { Records } from '../records';
import type { LayeredCloth } from './layeredCloth';

// What kernel/assembly/layers reads of the cloths: trees of boxes, neighbours, and rest places. Written once.

const CORNERS = [Triangle.CORNER_0, Triangle.CORNER_1, Triangle.CORNER_2];
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
    const records = memory.records(address + firstPoint * Point.BYTES, Point.BYTES, points);
    // The height of a triangle is at least about half of its shortest edge on meshes fit for cloth.
    // Beside a fold they are nearer the sharper it is.
    const dense = rest.folds || edgeLengths(rest)[0]! < 4.5 * thickness ? 1 : 0;
    for (let i = 0; i < points; i++) {
      records.setFloats(i, 0, [places[i * 3]!, places[i * 3 + 1]! + c * APART, places[i * 3 + 2]!]);
      records.setFloat(i, Point.DENSE, dense);
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
  return writeLists(memory, lists, count, Point.BYTES);
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

/** One tree a cloth. */
export function writeForest(memory: KernelMemory, cloths: readonly LayeredCloth[]): Forest {
  const trees = cloths.map(({ rest }) => restTree(rest));
  const triangleCount = cloths.reduce((sum, { rest }) => sum + rest.triangles.length / 3, 0);
  const nodeCount = trees.reduce((sum, tree) => sum + tree.nodeCount, 0);
  const forest = {
    triangles: memory.allocate(triangleCount * Triangle.BYTES),
    nodes: memory.allocate(nodeCount * Node.BYTES),
    parents: memory.allocate(nodeCount * 4),
    cloths: memory.allocate(cloths.length * ClothRecord.BYTES),
    triangleCount,
    nodeCount,
  };
  const nodes = memory.records(forest.nodes, Node.BYTES, nodeCount);
  const parents = new Int32Array(memory.integers(forest.parents, nodeCount).buffer, forest.parents, nodeCount);
  const records = memory.records(forest.triangles, Triangle.BYTES, triangleCount);
  const clothRecords = memory.records(forest.cloths, ClothRecord.BYTES, cloths.length);
  let [firstFace, firstNode] = [0, 0];
  cloths.forEach((cloth, c) => {
    const tree = trees[c]!;
    const { rest, firstPoint } = cloth;
    writeTriangles(records, cloth, c, firstFace);
    parents[firstNode] = -1;
    for (let node = 0; node < tree.nodeCount; node++) {
      const leaf = tree.count[node]! > 0;
      const face = firstFace + tree.faces[tree.first[node]!]!;
      nodes.setInteger(firstNode + node, Node.FIRST, leaf ? face : firstNode + tree.first[node]!);
      nodes.setInteger(firstNode + node, Node.LEAF, leaf ? 1 : 0);
      if (leaf) records.setInteger(face, Triangle.LEAF, firstNode + node);
      else for (const child of [0, 1]) parents[firstNode + tree.first[node]! + child] = firstNode + node;
    }
    clothRecords.setWords(ClothRecord, { FIRST_POINT: firstPoint, POINT_COUNT: cloth.points, ROOT: firstNode }, c);
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
    const own = memory.records(triangles + firstFace * Triangle.BYTES, Triangle.BYTES, faces);
    for (let face = 0; face < faces; face++) {
      own.setFloat(face, Triangle.HALF_THICKNESS, (thickness / 2) * scaleOf(scales, 'thickness', face));
      own.setFloat(face, Triangle.GRIP, Math.sqrt(friction * scaleOf(scales, 'friction', face)));
      const owned = own.integer(face, Triangle.FLAGS) & ~Triangle.PASSES;
      own.setInteger(face, Triangle.FLAGS, owned | (passing?.[face] === 1 ? Triangle.PASSES : 0));
    }
    // The middle one: a single sliver must not shorten how far the whole cloth is looked ahead for.
    const lengths = edgeLengths(rest);
    const spacing = lengths[lengths.length >> 1]!;
    const record = memory.records(records, ClothRecord.BYTES, cloths.length);
    record.setFloat(c, ClothRecord.FARTHEST, farthest);
    record.setFloat(c, ClothRecord.SPACING, spacing);
    firstFace += faces;
  });
}

/** Every point and edge belongs to the first triangle that has it, so that each pair of features is met once. */
function writeTriangles(
  records: Records,
  { rest, firstPoint, points }: LayeredCloth,
  cloth: number,
  firstFace: number,
): void {
  const t = topology(rest);
  const pointTaken = new Uint8Array(points);
  const edgeTaken = new Uint8Array(t.edgeCount);
  for (let face = 0; face < rest.triangles.length / 3; face++) {
    let owned = 0;
    CORNERS.forEach((field, corner) => {
      const point = rest.triangles[face * 3 + corner]!;
      const edge = t.faceEdges[face * 3 + corner]!;
      records.setInteger(firstFace + face, field, (firstPoint + point) * Point.BYTES);
      if (!pointTaken[point]) owned |= Triangle.OWNS_CORNER << corner;
      if (!edgeTaken[edge]) owned |= Triangle.OWNS_EDGE << corner;
      pointTaken[point] = edgeTaken[edge] = 1;
    });
    records.setInteger(firstFace + face, Triangle.FLAGS, owned);
    records.setInteger(firstFace + face, Triangle.CLOTH, cloth);
  }
}
