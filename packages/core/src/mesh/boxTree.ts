import type { Mesh } from './mesh';
import { oncePerMesh } from './oncePerMesh';

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
  const faceCount = mesh.triangles.length / 3;
  const { faceBoxes, centres } = boxesOfFaces(mesh);
  const faces = Uint32Array.from({ length: faceCount }, (_, i) => i);
  const capacity = Math.max(1, 2 * faceCount);
  const boxes = new Float32Array(capacity * 6);
  const first = new Uint32Array(capacity);
  const count = new Uint32Array(capacity);
  const box = new Float32Array(6);
  let nodeCount = 1;
  const pending = [{ node: 0, start: 0, end: faceCount }];
  for (let job = pending.pop(); job; job = pending.pop()) {
    const { node, start, end } = job;
    box.fill(Infinity, 0, 3).fill(-Infinity, 3);
    for (let i = start; i < end; i++) {
      const at = faces[i]! * 6;
      for (let axis = 0; axis < 3; axis++) {
        if (faceBoxes[at + axis]! < box[axis]!) box[axis] = faceBoxes[at + axis]!;
        if (faceBoxes[at + 3 + axis]! > box[3 + axis]!) box[3 + axis] = faceBoxes[at + 3 + axis]!;
      }
    }
    boxes.set(box, node * 6);
    if (end - start <= leafFaces) {
      first[node] = start;
      count[node] = end - start;
      continue;
    }
    const spans = [0, 1, 2].map((axis) => box[3 + axis]! - box[axis]!);
    const axis = spans.indexOf(Math.max(...spans));
    faces.subarray(start, end).sort((a, b) => centres[a * 3 + axis]! - centres[b * 3 + axis]! || a - b);
    const middle = (start + end) >> 1;
    first[node] = nodeCount;
    pending.push({ node: nodeCount, start, end: middle }, { node: nodeCount + 1, start: middle, end });
    nodeCount += 2;
  }
  return { nodeCount, boxes, first, count, faces };
}

/** The box of each face, low then high corner, and three times its centre. */
function boxesOfFaces({ positions, triangles }: Mesh): { faceBoxes: Float32Array; centres: Float64Array } {
  const faceCount = triangles.length / 3;
  const faceBoxes = new Float32Array(faceCount * 6);
  const centres = new Float64Array(faceCount * 3);
  for (let face = 0; face < faceCount; face++) {
    const [i, j, k] = [triangles[face * 3]! * 3, triangles[face * 3 + 1]! * 3, triangles[face * 3 + 2]! * 3];
    for (let axis = 0; axis < 3; axis++) {
      const [a, b, c] = [positions[i + axis]!, positions[j + axis]!, positions[k + axis]!];
      faceBoxes[face * 6 + axis] = Math.min(a, b, c);
      faceBoxes[face * 6 + 3 + axis] = Math.max(a, b, c);
      centres[face * 3 + axis] = a + b + c;
    }
  }
  return { faceBoxes, centres };
}

/** The tree of a mesh that is asked for again and again: built once. */
export const treeOf = oncePerMesh((mesh) => boxTree(mesh));
