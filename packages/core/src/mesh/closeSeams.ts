import { pointCount, type Mesh } from './mesh';
import { oncePerMesh } from './oncePerMesh';

/** A mesh whose seams are closed. */
export interface ClosedSeams {
  /** Sewn points are one; faces are as many, and in the same order. Where it lies flat is said corner by corner. */
  mesh: Mesh;
  /** Per point of the open mesh, which one it has become. */
  pointOf: Uint32Array;
}

/** Makes sewn points one, in the middle of where they are. Meshes without seams have nothing to close. */
export const closedSeams = oncePerMesh((open): ClosedSeams | null => {
  const { sewn, triangles, positions, material, folds } = open;
  if (!sewn) return null;
  const pointOf = new Uint32Array(pointCount(open));
  const firsts: number[] = [];
  sewn.forEach((first, point) => {
    if (first === point) {
      pointOf[point] = firsts.length;
      firsts.push(point);
    } else pointOf[point] = pointOf[first]!;
  });
  const places = new Float32Array(firsts.length * 3);
  const shares = new Float32Array(firsts.length);
  pointOf.forEach((to) => shares[to]!++);
  positions.forEach((value, i) => {
    const to = pointOf[Math.floor(i / 3)]!;
    places[to * 3 + (i % 3)]! += value / shares[to]!;
  });
  const cornerMaterial = material && cornersOf(triangles, material);
  return {
    mesh: {
      positions: places,
      triangles: triangles.map((point) => pointOf[point]!),
      ...(cornerMaterial && { cornerMaterial }),
      ...(folds && { folds: { edges: folds.edges.map((point) => pointOf[point]!), angles: folds.angles } }),
    },
    pointOf,
  };
});

function cornersOf(triangles: Uint32Array, material: Float32Array): Float32Array {
  const corners = new Float32Array(triangles.length * 2);
  triangles.forEach((point, corner) => corners.set(material.subarray(point * 2, point * 2 + 2), corner * 2));
  return corners;
}
