import type { Mesh } from './mesh';

/** A tree of axis-aligned boxes over the faces of a mesh. */
export interface BoxTree {
  readonly nodeCount: number;
  /** Low then high corner, 6 numbers a node. */
  readonly boxes: Float32Array;
  /** For an inner node its left child, the right being the next; for a leaf its first entry in `faces`. */
  readonly first: Uint32Array;
  /** Faces in a leaf, 0 for an inner node. */
  readonly count: Uint32Array;
  /** Face indices, leaf by leaf. */
  readonly faces: Uint32Array;
}

/** Builds the tree by halving along the longest axis of the face centres; a leaf has at most `leafFaces` faces. */
export function boxTree(mesh: Mesh, leafFaces = 4): BoxTree {
  const { positions, triangles } = mesh;
  const faceCount = triangles.length / 3;
  const faces = Uint32Array.from({ length: faceCount }, (_, i) => i);
  const capacity = Math.max(1, 2 * faceCount);
  const boxes = new Float32Array(capacity * 6);
  const first = new Uint32Array(capacity);
  const count = new Uint32Array(capacity);
  const centre = (face: number, axis: number): number =>
    positions[triangles[face * 3]! * 3 + axis]! +
    positions[triangles[face * 3 + 1]! * 3 + axis]! +
    positions[triangles[face * 3 + 2]! * 3 + axis]!;
  let nodeCount = 1;
  const pending = [{ node: 0, start: 0, end: faceCount }];
  for (let job = pending.pop(); job; job = pending.pop()) {
    const { node, start, end } = job;
    const low = [Infinity, Infinity, Infinity];
    const high = [-Infinity, -Infinity, -Infinity];
    for (let i = start; i < end; i++) {
      for (let corner = 0; corner < 3; corner++) {
        const point = triangles[faces[i]! * 3 + corner]!;
        for (let axis = 0; axis < 3; axis++) {
          const value = positions[point * 3 + axis]!;
          low[axis] = Math.min(low[axis]!, value);
          high[axis] = Math.max(high[axis]!, value);
        }
      }
    }
    boxes.set([...low, ...high], node * 6);
    if (end - start <= leafFaces) {
      first[node] = start;
      count[node] = end - start;
      continue;
    }
    const spans = [0, 1, 2].map((axis) => high[axis]! - low[axis]!);
    const axis = spans.indexOf(Math.max(...spans));
    const order = [...faces.subarray(start, end)].sort((a, b) => centre(a, axis) - centre(b, axis) || a - b);
    faces.set(order, start);
    const middle = (start + end) >> 1;
    first[node] = nodeCount;
    pending.push({ node: nodeCount, start, end: middle }, { node: nodeCount + 1, start: middle, end });
    nodeCount += 2;
  }
  return { nodeCount, boxes, first, count, faces };
}
