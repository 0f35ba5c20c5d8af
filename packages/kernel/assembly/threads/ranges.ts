// Loops over lists, so many things at a time. Chunks find theirs by `firstOf` and `endOf`.
import { inChunks, isAlone, MOST_CHUNKS, pass, passed } from './pool';

// The last of a job's numbers.
const SIZE: usize = 19;
const FIRST: usize = 20;
const END: usize = 21;

/** Runs a loop over things from one number up to another, about `size` at a time, more where there are very many; returns in how many chunks. */
export function inRange(loop: u32, first: i32, end: i32, size: i32): i32 {
  if (end <= first) return 0;
  // Alone there is nothing to share out. Chunks are alike, or one thread would wait for a larger last one.
  const wanted = isAlone() ? 1 : min(MOST_CHUNKS, (end - first + size - 1) / size);
  const at = (end - first + wanted - 1) / wanted;
  const chunks = (end - first + at - 1) / at;
  pass<i32>(SIZE, at);
  pass<i32>(FIRST, first);
  pass<i32>(END, end);
  inChunks(loop, chunks);
  return chunks;
}

/**
 * Runs a loop over what is coloured, colour by colour: things of one colour share no point, so they may be done at once, and each point sees the
 * same sums on any number of threads. `colours` has the u32 number of the first thing of each of `count` colours, with the end appended.
 */
export function inColours(loop: u32, colours: usize, count: i32, size: i32, backward: bool = false): void {
  for (let n = 0; n < count; n++) {
    const colour = colours + (<usize>(backward ? count - 1 - n : n) << 2);
    inRange(loop, load<i32>(colour), load<i32>(colour, 4), size);
  }
}

// @ts-ignore: decorator
@inline
export function firstOf(chunk: i32): i32 {
  return passed<i32>(FIRST) + chunk * passed<i32>(SIZE);
}

// @ts-ignore: decorator
@inline
export function endOf(chunk: i32): i32 {
  return min(firstOf(chunk) + passed<i32>(SIZE), passed<i32>(END));
}
