import type { Vector3 } from '../math/vector';
import { bounds } from '../mesh/bounds';
import { boxTree } from '../mesh/boxTree';
import type { Mesh } from '../mesh/mesh';
import { sideNormals } from '../mesh/sideNormals';
import { isClosed, topology } from '../mesh/topology';
import type { KernelMemory } from './kernelMemory';
import type { ColliderModel } from './model';

const RECORD_WORDS = 32;
const TRIANGLE_WORDS = 31;
const KINDS = { plane: 0, ball: 1, box: 2, cylinder: 3, mesh: 4 } as const;
/** Cloth that already slides is held by this share of the friction that holds resting cloth. */
const MOVING_SHARE = 0.85;

/** Writes a collider as one cloth meets it; the layout is in kernel/assembly/collider.ts. Returns its address. */
export function writeCollider(
  memory: KernelMemory,
  collider: ColliderModel,
  meshAddress: number,
  cloth: { thickness: number; friction: number },
): number {
  const address = memory.allocate(RECORD_WORDS * 4);
  const values = memory.floats(address, RECORD_WORDS);
  const integers = memory.integers(address, RECORD_WORDS);
  integers[0] = KINDS[collider.kind];
  const friction = Math.sqrt(collider.friction * cloth.friction);
  values[1] = friction;
  values[2] = friction * MOVING_SHARE;
  values[3] = targetDistance(collider, cloth.thickness);
  const { low, high } = colliderBounds(collider);
  values.set([...low, ...high], 24);
  if (collider.kind === 'mesh') {
    integers[20] = meshAddress;
    return address;
  }
  values.set(collider.center, 4);
  values.set(collider.rotation, 8);
  if (collider.kind === 'ball') values[17] = collider.radius;
  else if (collider.kind === 'box')
    values.set(
      collider.size.map((side) => side / 2),
      17,
    );
  else if (collider.kind === 'cylinder') values.set([collider.radius, collider.height / 2], 17);
  return address;
}

/** A box around the collider in the world; endless for a plane. */
function colliderBounds(collider: ColliderModel): { low: Vector3; high: Vector3 } {
  if (collider.kind === 'plane') {
    return { low: [-Infinity, -Infinity, -Infinity], high: [Infinity, Infinity, Infinity] };
  }
  if (collider.kind === 'mesh') return bounds(collider.mesh.positions) ?? { low: [0, 0, 0], high: [0, 0, 0] };
  const half: Vector3 =
    collider.kind === 'box'
      ? [collider.size[0] / 2, collider.size[1] / 2, collider.size[2] / 2]
      : collider.kind === 'ball'
        ? [collider.radius, collider.radius, collider.radius]
        : [collider.radius, collider.height / 2, collider.radius];
  const { center, rotation: r } = collider;
  const reach = [0, 1, 2].map(
    (axis) => Math.abs(r[axis]!) * half[0] + Math.abs(r[axis + 3]!) * half[1] + Math.abs(r[axis + 6]!) * half[2] + 1e-5,
  );
  return {
    low: [center[0] - reach[0]!, center[1] - reach[1]!, center[2] - reach[2]!],
    high: [center[0] + reach[0]!, center[1] + reach[1]!, center[2] + reach[2]!],
  };
}

/** How far the cloth's middle surface stays from the collider, in m. */
export function targetDistance(collider: ColliderModel, thickness: number): number {
  return collider.clearance + thickness / 2;
}

/** Writes a mesh and its tree of boxes; the layout is in kernel/assembly/meshDistance.ts. Returns its address. */
export function writeColliderMesh(memory: KernelMemory, mesh: Mesh): number {
  const t = topology(mesh);
  const normals = sideNormals(mesh, t);
  const tree = boxTree(mesh);
  const nodes = memory.allocate(tree.nodeCount * 32);
  const triangles = memory.allocate(tree.faces.length * TRIANGLE_WORDS * 4);
  const record = memory.allocate(16);
  const boxes = memory.floats(nodes, tree.nodeCount * 8);
  const links = memory.integers(nodes, tree.nodeCount * 8);
  for (let node = 0; node < tree.nodeCount; node++) {
    boxes.set(tree.boxes.subarray(node * 6, node * 6 + 6), node * 8);
    links[node * 8 + 6] = tree.first[node]!;
    links[node * 8 + 7] = tree.count[node]!;
  }
  const values = memory.floats(triangles, tree.faces.length * TRIANGLE_WORDS);
  tree.faces.forEach((face, i) => {
    const corners = [0, 1, 2].map((corner) => mesh.triangles[face * 3 + corner]!);
    const edges = [0, 1, 2].map((corner) => t.faceEdges[face * 3 + corner]!);
    values.set(
      [
        ...corners.flatMap((point) => [...mesh.positions.subarray(point * 3, point * 3 + 3)]),
        ...normals.faces[face]!,
        ...corners.flatMap((point) => [...normals.points[point]!]),
        ...edges.flatMap((edge) => [...normals.edges[edge]!]),
      ],
      i * TRIANGLE_WORDS,
    );
  });
  memory.integers(record, 4).set([nodes, triangles, isClosed(t) ? 1 : 0, tree.faces.length]);
  return record;
}
