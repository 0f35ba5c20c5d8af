import { crossingsOf } from '../mesh/crossings';
import { eachPairThatMayMeet } from './closePairs';

/** So often what still crosses goes half as far; after that not at all. */
const ROUNDS = 8;

/**
 * Points moved as far as nothing crosses: `from`, x y z in m, and their `moves`. Of the faces (three points each) only those are looked at that have 1 in `looked`, and what
 * crosses goes back, half and half again, towards where it came from, where nothing crosses.
 */
export function pulledBack(
  from: Float32Array,
  moves: Float32Array,
  triangles: Uint32Array,
  looked: Uint8Array,
): Float32Array {
  const positions = from.map((value, i) => value + moves[i]!);
  const share = new Float32Array(from.length / 3).fill(1);
  // Wherever points stop on their way, only these can meet.
  const pairs: number[] = [];
  const boxes = sweptBoxes(from, positions, triangles, looked);
  eachPairThatMayMeet({ positions: from, triangles }, boxes, (one, other) => pairs.push(one, other));
  /** Whether a point went back in the last round: what has not changed need not be asked again. */
  let changed = new Uint8Array(share.length).fill(1);
  const has = (face: number) =>
    changed[triangles[face * 3]!] || changed[triangles[face * 3 + 1]!] || changed[triangles[face * 3 + 2]!];
  for (let round = 0; round <= ROUNDS; round++) {
    const back = new Uint8Array(share.length);
    let any = false;
    const tell = (a: number, b: number, face: number) => {
      any = true;
      for (const point of [a, b, triangles[face * 3]!, triangles[face * 3 + 1]!, triangles[face * 3 + 2]!])
        back[point] = 1;
    };
    for (let i = 0; i < pairs.length; i += 2) {
      if (has(pairs[i]!) || has(pairs[i + 1]!)) crossingsOf(positions, triangles, pairs[i]!, pairs[i + 1]!, tell);
    }
    if (!any) break;
    for (let point = 0; point < share.length; point++) {
      if (!back[point]) continue;
      share[point] = round < ROUNDS ? share[point]! / 2 : 0;
      for (let i = point * 3; i < point * 3 + 3; i++) positions[i] = from[i]! + share[point]! * moves[i]!;
    }
    changed = back;
  }
  return positions;
}

/** The box of each face that is looked at, with all of its way; none of the others. */
function sweptBoxes(from: Float32Array, to: Float32Array, triangles: Uint32Array, looked: Uint8Array): Float32Array {
  const boxes = new Float32Array(looked.length * 6);
  for (let face = 0; face < looked.length; face++) {
    for (let axis = 0; axis < 3; axis++) {
      let [low, high] = [Infinity, -Infinity];
      for (let corner = 0; corner < 3 && looked[face]; corner++) {
        const i = triangles[face * 3 + corner]! * 3 + axis;
        low = Math.min(low, from[i]!, to[i]!);
        high = Math.max(high, from[i]!, to[i]!);
      }
      boxes[face * 6 + axis] = low;
      boxes[face * 6 + 3 + axis] = high;
    }
  }
  return boxes;
}
