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
  const colours = new Uint16Array(count);
  const words = Math.ceil(mostColours(points, arity, pointCount) / 32);
  // A bit a colour and point; meshes of ordinary cloth need 7 to 14, a wide fan as many as it has faces.
  const used = new Uint32Array(pointCount * words);
  let colourCount = 0;
  for (let c = 0; c < count; c++) {
    let [word, taken] = [-1, -1];
    while (taken === -1) {
      word++;
      taken = 0;
      for (let k = 0; k < arity; k++) taken |= used[points[c * arity + k]! * words + word]!;
    }
    const bit = lowestClearBit(taken);
    for (let k = 0; k < arity; k++) {
      const at = points[c * arity + k]! * words + word;
      used[at] = used[at]! | (1 << bit);
    }
    colours[c] = word * 32 + bit;
    colourCount = Math.max(colourCount, colours[c]! + 1);
  }
  const starts = new Array<number>(colourCount + 1).fill(0);
  for (const c of colours) starts[c + 1]!++;
  for (let k = 0; k < colourCount; k++) starts[k + 1]! += starts[k]!;
  const next = [...starts];
  const order = new Uint32Array(count);
  for (let c = 0; c < count; c++) order[next[colours[c]!]!++] = c;
  return { order, starts };
}

/** No constraint waits for more others than meet it at its points. */
function mostColours(points: ArrayLike<number>, arity: number, pointCount: number): number {
  const met = new Uint32Array(pointCount);
  for (let i = 0; i < points.length; i++) met[points[i]!]!++;
  const most = met.reduce((largest, degree) => Math.max(largest, degree), 1);
  return arity * (most - 1) + 1;
}

/** Of a word that has one. */
function lowestClearBit(word: number): number {
  const clear = ~word;
  return 31 - Math.clz32(clear & -clear);
}
