import { crossingsOf } from '../mesh/crossings';
import { eachClosePair } from './closePairs';

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
  const farthest = (face: number) => {
    let most = looked[face] ? 0 : -1;
    for (let corner = face * 3; corner < face * 3 + 3 && looked[face]; corner++) {
      const i = triangles[corner]! * 3;
      most = Math.max(most, Math.sqrt(moves[i]! ** 2 + moves[i + 1]! ** 2 + moves[i + 2]! ** 2));
    }
    return most;
  };
  eachClosePair({ positions: from, triangles }, farthest, (one, other) => pairs.push(one, other));
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
