/**
 * Greedy colouring: constraints of one colour share no point. Returns the constraints' indices colour by
 * colour, in their given order within a colour, and where each colour starts (with the end appended).
 *
 * Coloured order matters twice: row by row the sweep diverges on fine meshes at high stiffness, and
 * neighbours that do not wait for each other run about twice as fast.
 *
 * @param points flat list, `arity` point indices a constraint
 */
export function colour(
  points: ArrayLike<number>,
  arity: number,
  pointCount: number,
): { order: Uint32Array; starts: number[] } {
  const count = points.length / arity;
  const colours = new Uint8Array(count);
  // Two words of 32 colours a point; meshes of ordinary cloth need 7 to 14.
  const used = new Uint32Array(pointCount * 2);
  let colourCount = 0;
  for (let c = 0; c < count; c++) {
    let low = 0;
    let high = 0;
    for (let k = 0; k < arity; k++) {
      low |= used[points[c * arity + k]! * 2]!;
      high |= used[points[c * arity + k]! * 2 + 1]!;
    }
    const free = low !== -1 ? lowestClearBit(low) : 32 + lowestClearBit(high);
    if (free >= 64) throw new Error('More than 64 faces meet in one point; weld or remesh the cloth.');
    for (let k = 0; k < arity; k++) {
      const word = points[c * arity + k]! * 2 + (free >> 5);
      used[word] = used[word]! | (1 << (free & 31));
    }
    colours[c] = free;
    colourCount = Math.max(colourCount, free + 1);
  }
  const starts = new Array<number>(colourCount + 1).fill(0);
  for (const c of colours) starts[c + 1]!++;
  for (let k = 0; k < colourCount; k++) starts[k + 1]! += starts[k]!;
  const next = [...starts];
  const order = new Uint32Array(count);
  for (let c = 0; c < count; c++) order[next[colours[c]!]!++] = c;
  return { order, starts };
}

function lowestClearBit(word: number): number {
  const clear = ~word;
  return clear === 0 ? 32 : 31 - Math.clz32(clear & -clear);
}
