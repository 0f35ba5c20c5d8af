import * as BoxNode from '@lumbra/kernel/layouts/contact/boxNode';
import * as Feature from '@lumbra/kernel/layouts/contact/sharpFeature';
import * as SurfaceMesh from '@lumbra/kernel/layouts/contact/surfaceMesh';
import * as Triangle from '@lumbra/kernel/layouts/contact/surfaceTriangle';
import { boxTree, treeOf, type BoxTree } from '../../mesh/boxTree';
import type { Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import { sideNormals } from '../../mesh/sideNormals';
import { isClosed, topology, type Topology } from '../../mesh/topology';
import type { LocalBox } from './colliderRecords';
import type { KernelMemory } from '../kernelMemory';
import { sharpFeatures, type SharpFeature } from './sharpFeatures';

/** A node of a tree of boxes in numbers of 4 bytes, and where its corners lie in it. */
const [NODE_WORDS, LOW, HIGH] = [BoxNode.BYTES / 4, BoxNode.LOW / 4, BoxNode.HIGH / 4];

/** The sharp features of a mesh, as triangles over their ends, with their tree. */
interface Sharp {
  features: SharpFeature[];
  corners: Uint32Array;
  tree: BoxTree;
}

const sharpFor = oncePerMesh(() => new Map<number, Sharp>());
/** For so many spacings what is sharp of a mesh is remembered. */
const MOST_SPACINGS = 8;

/** What is sharp of a mesh for cloth whose longest edge is `spacing` m. Not to be written to. */
function sharpOf(mesh: Mesh, spacing: number): Sharp {
  const found = sharpFor(mesh);
  const known = found.get(spacing);
  if (known) return known;
  const t = topology(mesh);
  const features = sharpFeatures(mesh, t, sideNormals(mesh, t), spacing, !isClosed(t));
  const corners = Uint32Array.from(features.flatMap(({ ends: [a, b] }) => [a, b, b]));
  const sharp = { features, corners, tree: boxTree({ ...mesh, triangles: corners }) };
  if (found.size >= MOST_SPACINGS) found.clear();
  found.set(spacing, sharp);
  return sharp;
}

/**
 * The mesh of a collider in the kernel, with its tree of boxes. A mesh whose points
 * move is written at the beginning and the end of each frame; within it, the kernel goes from one to the other in a straight line.
 */
export class ColliderMesh {
  readonly address: number;
  readonly #memory: KernelMemory;
  readonly #mesh: Mesh;
  readonly #topology: Topology;
  readonly #tree: BoxTree;
  readonly #pointsAt: ((time: number) => Float32Array) | undefined;
  readonly #nodes: number;
  readonly #triangles: number;
  readonly #from: number = 0;
  readonly #to: number = 0;
  readonly #nodesFrom: number = 0;
  readonly #nodesTo: number = 0;
  #startTime = NaN;
  #endTime = NaN;
  #start: Float32Array;
  #end: Float32Array;
  #share = 0;
  #farthest = 0;
  #box: LocalBox = null;
  /** Its sharp features, as triangles over their ends, with their tree and its nodes in the kernel; null where it has none. */
  readonly #sharp: { tree: BoxTree; corners: Uint32Array; nodes: number } | null;

  /** `spacing` is the longest edge in m of cloth that may meet it. */
  constructor(
    memory: KernelMemory,
    mesh: Mesh,
    { spacing, pointsAt }: { spacing: number; pointsAt?: ((time: number) => Float32Array) | undefined },
  ) {
    this.#memory = memory;
    this.#mesh = mesh;
    this.#pointsAt = pointsAt;
    this.#topology = topology(mesh);
    this.#tree = treeOf(mesh);
    this.#start = this.#end = mesh.positions;
    const count = this.#tree.faces.length;
    // Padded, so that the kernel may go over it in whole vectors.
    const room = () => memory.allocate(count * Triangle.BYTES + 16);
    this.#nodes = memory.allocate(this.#tree.nodeCount * BoxNode.BYTES);
    this.#triangles = room();
    const before = pointsAt ? memory.allocate(count * Triangle.CORNER_BYTES) : 0;
    if (pointsAt) [this.#from, this.#to] = [room(), room()];
    this.address = memory.allocate(SurfaceMesh.BYTES);
    this.#tell({
      NODES: this.#nodes,
      TRIANGLES: this.#triangles,
      CORNERS_THEN: before,
      COUNT: count,
      TRIANGLES_FROM: this.#from,
      TRIANGLES_TO: this.#to,
    });
    this.#link(this.#nodes, this.#tree);
    if (pointsAt) {
      const nodes = () => memory.allocate(this.#tree.nodeCount * BoxNode.BYTES);
      [this.#nodesFrom, this.#nodesTo] = [nodes(), nodes()];
      for (const address of [this.#nodesFrom, this.#nodesTo]) this.#link(address, this.#tree);
      this.#tell({ NODES_FROM: this.#nodesFrom, NODES_TO: this.#nodesTo, NODE_COUNT: this.#tree.nodeCount });
    }
    this.#writeTriangles(this.#triangles, mesh.positions);
    this.#sharp = this.#addSharp(spacing, before);
    this.#writeBoxes();
  }

  /**
   * Writes its sharp features, which lie where the kernel keeps the corners and normals of its triangles, and so move with them; `before`
   * is where it keeps where the corners of a mesh that changes its shape were.
   */
  #addSharp(spacing: number, before: number): { tree: BoxTree; corners: Uint32Array; nodes: number } | null {
    const { features, corners, tree } = sharpOf(this.#mesh, spacing);
    if (features.length === 0) return null;
    const address = this.#memory.allocate(features.length * Feature.BYTES);
    const records = this.#memory.records(address, Feature.BYTES, features.length);
    const places = this.#placesOfCorners(before);
    tree.faces.forEach((feature, i) => {
      records.setWords(Feature, this.#featureRecord(features[feature]!, places), i);
    });
    const nodes = this.#memory.allocate(tree.nodeCount * BoxNode.BYTES);
    this.#link(nodes, tree);
    this.#tell({ SHARP_NODES: nodes, SHARP_FEATURES: address });
    return { tree, corners, nodes };
  }

  /** Writes into nodes what they lead to. */
  #link(nodes: number, { nodeCount, first, count }: BoxTree): void {
    const records = this.#memory.records(nodes, BoxNode.BYTES, nodeCount);
    for (let node = 0; node < nodeCount; node++) {
      records.setInteger(node, BoxNode.FIRST, first[node]!);
      records.setInteger(node, BoxNode.COUNT, count[node]!);
    }
  }

  /** Tells the kernel where something of it lies. */
  #tell(words: { [field in keyof typeof SurfaceMesh]?: number }): void {
    this.#memory.records(this.address, SurfaceMesh.BYTES).setWords(SurfaceMesh, words);
  }

  /** For each point the address of a triangle's corner that is there, and for each edge the addresses of its ends and normal. */
  #placesOfCorners(before: number): CornerPlaces {
    const { triangles } = this.#mesh;
    const points = new Uint32Array(this.#mesh.positions.length / 3);
    const then = new Uint32Array(points.length);
    const edges = new Uint32Array(this.#topology.edgeCount);
    this.#tree.faces.forEach((face, i) => {
      const at = this.#triangles + i * Triangle.BYTES;
      for (let corner = 0; corner < 3; corner++) {
        const point = triangles[face * 3 + corner]!;
        points[point] = at + Triangle.CORNERS + corner * Triangle.VECTOR;
        then[point] = before === 0 ? points[point]! : before + i * Triangle.CORNER_BYTES + corner * Triangle.VECTOR;
        edges[this.#topology.faceEdges[face * 3 + corner]!] = at + Triangle.EDGE_NORMALS + corner * Triangle.VECTOR;
      }
    });
    return { points, then, edges };
  }

  #featureRecord({ ends: [a, b], edge, tried }: SharpFeature, at: CornerPlaces) {
    const normalAt = (point: number) => at.points[point]! + Triangle.CORNER_NORMALS - Triangle.CORNERS;
    const points = (tried[0] ? Feature.FLAG_FIRST : 0) | (tried[1] ? Feature.FLAG_SECOND : 0);
    return {
      END_0: at.points[a]!,
      END_1: at.points[b]!,
      NORMAL_0: normalAt(a),
      NORMAL_1: normalAt(b),
      EDGE_NORMAL: edge < 0 ? normalAt(a) : at.edges[edge]!,
      FLAGS: points | (edge < 0 ? 0 : Feature.FLAG_EDGE),
      END_0_THEN: at.then[a]!,
      END_1_THEN: at.then[b]!,
    };
  }

  get deforms(): boolean {
    return this.#pointsAt !== undefined;
  }

  /** The box around it, in its own axes, at any time of the frame. */
  get box(): LocalBox {
    return this.#box;
  }

  /** Takes it to where a frame begins; `moveTo` then takes it through the frame. */
  beginFrame(startTime: number, endTime: number): void {
    if (!this.#pointsAt) return;
    const known = this.#endTime === startTime ? this.#end : null;
    if (this.#startTime !== startTime || this.#endTime !== endTime) {
      this.#start = known ?? this.#pointsAt(startTime);
      this.#end = endTime === startTime ? this.#start : this.#pointsAt(endTime);
      [this.#startTime, this.#endTime] = [startTime, endTime];
      this.#writeTriangles(this.#from, this.#start);
      this.#writeTriangles(this.#to, this.#end);
      this.#writeBoxes();
      this.#farthest = farthestMove(this.#start, this.#end);
    }
    this.#share = 0;
    this.#memory.run.deformMesh(this.address, 0);
  }

  /** Takes it to a time of the frame; returns the farthest that a point of it moved, in m. */
  moveTo(time: number): number {
    if (!this.#pointsAt) return 0;
    const whole = this.#endTime - this.#startTime;
    const share = whole > 0 ? Math.min(1, Math.max(0, (time - this.#startTime) / whole)) : 0;
    const moved = Math.abs(share - this.#share) * this.#farthest;
    this.#share = share;
    this.#memory.run.deformMesh(this.address, share);
    return moved;
  }

  #writeTriangles(address: number, positions: Float32Array): void {
    const normals = sideNormals({ ...this.#mesh, positions }, this.#topology);
    const { triangles } = this.#mesh;
    const records = this.#memory.records(address, Triangle.BYTES, this.#tree.faces.length);
    this.#tree.faces.forEach((face, i) => {
      const copy = (field: number, from: ArrayLike<number>, vector: number) => {
        for (let axis = 0; axis < 3; axis++) records.setFloat(i, field + axis * 4, from[vector * 3 + axis]!);
      };
      copy(Triangle.NORMAL, normals.faces, face);
      for (let corner = 0; corner < 3; corner++) {
        const point = triangles[face * 3 + corner]!;
        const along = corner * Triangle.VECTOR;
        copy(Triangle.CORNERS + along, positions, point);
        copy(Triangle.CORNER_NORMALS + along, normals.points, point);
        copy(Triangle.EDGE_NORMALS + along, normals.edges, this.#topology.faceEdges[face * 3 + corner]!);
      }
    });
  }

  /** Boxes around everything: of its faces as it is at either end of the frame, of what is sharp at any time of it. */
  #writeBoxes(): void {
    const { triangles } = this.#mesh;
    const whole = [this.#start, this.#end];
    if (this.#sharp) this.#writeNodes(this.#sharp.nodes, this.#sharp.tree, this.#sharp.corners, whole);
    const roots = this.#pointsAt
      ? [
          this.#writeNodes(this.#nodesFrom, this.#tree, triangles, [this.#start]),
          this.#writeNodes(this.#nodesTo, this.#tree, triangles, [this.#end]),
        ]
      : [this.#writeNodes(this.#nodes, this.#tree, triangles, [this.#start])];
    const corner = (from: number, pick: (...values: number[]) => number): [number, number, number] => {
      const [x, y, z] = [0, 1, 2].map((axis) => pick(...roots.map((root) => root[from + axis]!)));
      return [x!, y!, z!];
    };
    this.#box = { low: corner(LOW, Math.min), high: corner(HIGH, Math.max) };
  }

  /** Boxes of a tree over triples of points, around all poses, from the leaves up: children come after their parent. Returns them. */
  #writeNodes(
    address: number,
    { nodeCount, first, count, faces }: BoxTree,
    corners: Uint32Array,
    poses: readonly Float32Array[],
  ): Float32Array {
    const boxes = this.#memory.floats(address, nodeCount * NODE_WORDS);
    for (let node = nodeCount - 1; node >= 0; node--) {
      const [low, high] = [node * NODE_WORDS + LOW, node * NODE_WORDS + HIGH];
      boxes.fill(Infinity, low, low + 3);
      boxes.fill(-Infinity, high, high + 3);
      const include = (values: ArrayLike<number>, atLow: number, atHigh: number) => {
        for (let axis = 0; axis < 3; axis++) {
          boxes[low + axis] = Math.min(boxes[low + axis]!, values[atLow + axis]!);
          boxes[high + axis] = Math.max(boxes[high + axis]!, values[atHigh + axis]!);
        }
      };
      if (count[node] === 0) {
        for (const child of [first[node]!, first[node]! + 1]) {
          include(boxes, child * NODE_WORDS + LOW, child * NODE_WORDS + HIGH);
        }
        continue;
      }
      for (let i = 0; i < count[node]!; i++) {
        for (let corner = 0; corner < 3; corner++) {
          const point = corners[faces[first[node]! + i]! * 3 + corner]! * 3;
          for (const pose of poses) include(pose, point, point);
        }
      }
    }
    return boxes;
  }
}

/** Addresses in the kernel: of a triangle's corner at each point, of where that was when the substep began, and of each edge's normal. */
interface CornerPlaces {
  points: Uint32Array;
  then: Uint32Array;
  edges: Uint32Array;
}

function farthestMove(from: Float32Array, to: Float32Array): number {
  let square = 0;
  for (let i = 0; i < from.length; i += 3) {
    const [x, y, z] = [to[i]! - from[i]!, to[i + 1]! - from[i + 1]!, to[i + 2]! - from[i + 2]!];
    square = Math.max(square, x * x + y * y + z * z);
  }
  return Math.sqrt(square);
}
