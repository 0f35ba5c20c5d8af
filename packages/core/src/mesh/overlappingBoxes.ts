/** Cells of the grid are so many times as wide as the mean box. */
const CELL = 3;

/**
 * Tells of all pairs of boxes that overlap, each once. Boxes are low then high corner, 6 numbers each; those whose low corner lies above the high one are
 * left out. They lie in a grid of cells by a hash (Teschner et al. 2003, “Optimized spatial hashing for collision detection of deformable objects”).
 */
export function overlappingBoxes(boxes: Float32Array, found: (a: number, b: number) => void): void {
  const count = boxes.length / 6;
  let [sum, there] = [0, 0];
  for (let i = 0; i < count; i++) {
    if (boxes[i * 6]! > boxes[i * 6 + 3]!) continue;
    for (let axis = 0; axis < 3; axis++) sum += boxes[i * 6 + 3 + axis]! - boxes[i * 6 + axis]!;
    there++;
  }
  if (there < 2) return;
  const cell = Math.max(1e-9, (CELL * sum) / (3 * there));
  const mask = 2 ** Math.ceil(Math.log2(there * 2)) - 1;
  const hash = (x: number, y: number, z: number) =>
    (Math.imul(x, 73856093) ^ Math.imul(y, 19349663) ^ Math.imul(z, 83492791)) & mask;
  const lows = new Int32Array(count * 3);
  const highs = new Int32Array(count * 3);
  const starts = new Uint32Array(mask + 2);
  for (let i = 0; i < count; i++) {
    if (boxes[i * 6]! > boxes[i * 6 + 3]!) {
      highs[i * 3] = -1;
      continue;
    }
    for (let axis = 0; axis < 3; axis++) {
      lows[i * 3 + axis] = Math.floor(boxes[i * 6 + axis]! / cell);
      highs[i * 3 + axis] = Math.floor(boxes[i * 6 + 3 + axis]! / cell);
    }
  }
  // Twice through all cells of all boxes: once to count what lies in each slot, once to put it there.
  for (let i = 0; i < count; i++)
    for (let x = lows[i * 3]!; x <= highs[i * 3]!; x++)
      for (let y = lows[i * 3 + 1]!; y <= highs[i * 3 + 1]!; y++)
        for (let z = lows[i * 3 + 2]!; z <= highs[i * 3 + 2]!; z++) starts[hash(x, y, z) + 1]!++;
  for (let slot = 0; slot <= mask; slot++) starts[slot + 1]! += starts[slot]!;
  const entries = new Uint32Array(starts[mask + 1]!);
  const next = starts.slice();
  for (let i = 0; i < count; i++)
    for (let x = lows[i * 3]!; x <= highs[i * 3]!; x++)
      for (let y = lows[i * 3 + 1]!; y <= highs[i * 3 + 1]!; y++)
        for (let z = lows[i * 3 + 2]!; z <= highs[i * 3 + 2]!; z++) entries[next[hash(x, y, z)]!++] = i;
  for (let slot = 0; slot <= mask; slot++) {
    const end = starts[slot + 1]!;
    for (let n = starts[slot]!; n < end; n++) {
      const a = entries[n]!;
      // A slot may hold several cells of a box: one after the other.
      if (n > starts[slot]! && entries[n - 1] === a) continue;
      const [lowX, lowY, lowZ] = [boxes[a * 6]!, boxes[a * 6 + 1]!, boxes[a * 6 + 2]!];
      const [highX, highY, highZ] = [boxes[a * 6 + 3]!, boxes[a * 6 + 4]!, boxes[a * 6 + 5]!];
      for (let m = n + 1; m < end; m++) {
        const b = entries[m]!;
        if (boxes[b * 6]! > highX || boxes[b * 6 + 3]! < lowX) continue;
        if (boxes[b * 6 + 1]! > highY || boxes[b * 6 + 4]! < lowY) continue;
        if (boxes[b * 6 + 2]! > highZ || boxes[b * 6 + 5]! < lowZ) continue;
        if (b === entries[m - 1]) continue;
        // In the lowest cell that both lie in, and there once.
        const x = Math.max(lows[a * 3]!, lows[b * 3]!);
        const y = Math.max(lows[a * 3 + 1]!, lows[b * 3 + 1]!);
        const z = Math.max(lows[a * 3 + 2]!, lows[b * 3 + 2]!);
        if (hash(x, y, z) === slot) found(a, b);
      }
    }
  }
}
