import { boxTree, treeOf, type BoxTree } from '../../mesh/boxTree';
import type { Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import { sideNormals } from '../../mesh/sideNormals';
import { isClosed, topology, type Topology } from '../../mesh/topology';
import type { LocalBox } from './colliderRecords';
import type { KernelMemory } from '../kernelMemory';
import { sharpFeatures, type SharpFeature } from './sharpFeatures';

const MESH_WORDS = 11;
const TRIANGLE_WORDS = 31;
const FEATURE_WORDS = 8;
/** Flags of a feature in the kernel: which ends are tried as points, and whether it is an edge. */
const [FIRST_END, SECOND_END, IS_EDGE] = [1, 2, 4];

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
 * The mesh of a collider in the kernel, with its tree of boxes; the layout is in kernel/assembly/meshDistance.ts. A mesh whose points
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
    const room = () => memory.allocate(count * TRIANGLE_WORDS * 4 + 16);
    this.#nodes = memory.allocate(this.#tree.nodeCount * 32);
    this.#triangles = room();
    const before = pointsAt ? memory.allocate(count * 36) : 0;
    if (pointsAt) [this.#from, this.#to] = [room(), room()];
    this.address = memory.allocate(MESH_WORDS * 4);
    memory.integers(this.address, MESH_WORDS).set([this.#nodes, this.#triangles, before, count, this.#from, this.#to]);
    this.#link(this.#nodes, this.#tree);
    if (pointsAt) {
      const nodes = () => memory.allocate(this.#tree.nodeCount * 32);
      [this.#nodesFrom, this.#nodesTo] = [nodes(), nodes()];
      for (const address of [this.#nodesFrom, this.#nodesTo]) this.#link(address, this.#tree);
      memory.integers(this.address, MESH_WORDS).set([this.#nodesFrom, this.#nodesTo, this.#tree.nodeCount], 8);
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
    const records = this.#memory.allocate(features.length * FEATURE_WORDS * 4);
    const values = this.#memory.integers(records, features.length * FEATURE_WORDS);
    const places = this.#placesOfCorners(before);
    tree.faces.forEach((feature, i) => {
      values.set(this.#featureRecord(features[feature]!, places), i * FEATURE_WORDS);
    });
    const nodes = this.#memory.allocate(tree.nodeCount * 32);
    this.#link(nodes, tree);
    this.#memory.integers(this.address, MESH_WORDS).set([nodes, records], 6);
    return { tree, corners, nodes };
  }

  /** Writes into nodes what they lead to. */
  #link(nodes: number, { nodeCount, first, count }: BoxTree): void {
    const links = this.#memory.integers(nodes, nodeCount * 8);
    for (let node = 0; node < nodeCount; node++) links.set([first[node]!, count[node]!], node * 8 + 6);
  }

  /** For each point the address of a triangle's corner that is there, and for each edge the addresses of its ends and normal. */
  #placesOfCorners(before: number): CornerPlaces {
    const { triangles } = this.#mesh;
    const points = new Uint32Array(this.#mesh.positions.length / 3);
    const then = new Uint32Array(points.length);
    const edges = new Uint32Array(this.#topology.edgeCount);
    this.#tree.faces.forEach((face, i) => {
      const at = this.#triangles + i * TRIANGLE_WORDS * 4;
      for (let corner = 0; corner < 3; corner++) {
        const point = triangles[face * 3 + corner]!;
        points[point] = at + corner * 12;
        then[point] = before === 0 ? points[point]! : before + i * 36 + corner * 12;
        edges[this.#topology.faceEdges[face * 3 + corner]!] = at + (21 + corner * 3) * 4;
      }
    });
    return { points, then, edges };
  }

  #featureRecord({ ends: [a, b], edge, tried }: SharpFeature, at: CornerPlaces): number[] {
    const [p, q] = [at.points[a]!, at.points[b]!];
    const flags = (tried[0] ? FIRST_END : 0) | (tried[1] ? SECOND_END : 0) | (edge < 0 ? 0 : IS_EDGE);
    // The normal at a corner lies 12 words behind it.
    return [p, q, p + 48, q + 48, edge < 0 ? p + 48 : at.edges[edge]!, flags, at.then[a]!, at.then[b]!];
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
    const values = this.#memory.floats(address, this.#tree.faces.length * TRIANGLE_WORDS);
    const copy = (to: number, from: ArrayLike<number>, at: number) => {
      values[to] = from[at]!;
      values[to + 1] = from[at + 1]!;
      values[to + 2] = from[at + 2]!;
    };
    this.#tree.faces.forEach((face, i) => {
      const to = i * TRIANGLE_WORDS;
      copy(to + 9, normals.faces, face * 3);
      for (let corner = 0; corner < 3; corner++) {
        const point = triangles[face * 3 + corner]! * 3;
        copy(to + corner * 3, positions, point);
        copy(to + 12 + corner * 3, normals.points, point);
        copy(to + 21 + corner * 3, normals.edges, this.#topology.faceEdges[face * 3 + corner]! * 3);
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
    this.#box = { low: corner(0, Math.min), high: corner(3, Math.max) };
  }

  /** Boxes of a tree over triples of points, around all poses, from the leaves up: children come after their parent. Returns them. */
  #writeNodes(
    address: number,
    { nodeCount, first, count, faces }: BoxTree,
    corners: Uint32Array,
    poses: readonly Float32Array[],
  ): Float32Array {
    const boxes = this.#memory.floats(address, nodeCount * 8);
    for (let node = nodeCount - 1; node >= 0; node--) {
      const [low, high] = [node * 8, node * 8 + 3];
      boxes.fill(Infinity, low, low + 3);
      boxes.fill(-Infinity, high, high + 3);
      const include = (values: ArrayLike<number>, atLow: number, atHigh: number) => {
        for (let axis = 0; axis < 3; axis++) {
          boxes[low + axis] = Math.min(boxes[low + axis]!, values[atLow + axis]!);
          boxes[high + axis] = Math.max(boxes[high + axis]!, values[atHigh + axis]!);
        }
      };
      if (count[node] === 0) {
        for (const child of [first[node]!, first[node]! + 1]) include(boxes, child * 8, child * 8 + 3);
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
