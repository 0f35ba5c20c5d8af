import type { BoxTree } from './boxTree';

/** Tells of the faces of a tree that may lie in a box (low, then high corner): those of all leaves that do. */
export function facesInBox(
  { boxes, first, count, faces }: BoxTree,
  box: Float32Array,
  found: (face: number) => void,
): void {
  const pending = [0];
  for (let node = pending.pop(); node !== undefined; node = pending.pop()) {
    const at = node * 6;
    let apart = false;
    for (let axis = 0; axis < 3; axis++) {
      apart ||= boxes[at + axis]! > box[axis + 3]! || box[axis]! > boxes[at + axis + 3]!;
    }
    if (apart) continue;
    if (count[node] === 0) pending.push(first[node]!, first[node]! + 1);
    else for (let i = first[node]!; i < first[node]! + count[node]!; i++) found(faces[i]!);
  }
}
