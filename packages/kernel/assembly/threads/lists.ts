// Loops that list what they find. Each chunk writes to where its things would come if all before were found; what is found is then moved
// together, so that it lies in the order in which one thread would have found it.
import { pass, passed, tell, told } from './pool';
import { firstOf, inRange } from './ranges';

const LIST: usize = 17;
const BYTES: usize = 18;

/**
 * Runs a loop over things 0 to `count` that writes at most `bytes` for each, and calls `endList` with where it has come to. Returns the end of
 * the list that begins at `list`.
 */
export function listInRange(loop: u32, count: i32, size: i32, list: usize, bytes: i32): usize {
  pass<usize>(LIST, list);
  pass<i32>(BYTES, bytes);
  const chunks = inRange(loop, 0, count, size);
  let to = list;
  for (let chunk = 0; chunk < chunks; chunk++) {
    const from = beginList(chunk);
    const length = <usize>i32x4.extract_lane(told(chunk), 0);
    if (to != from) memory.copy(to, from, length);
    to += length;
  }
  return to;
}

/** Where a chunk writes what it finds. */
// @ts-ignore: decorator
@inline
export function beginList(chunk: i32): usize {
  return passed<usize>(LIST) + <usize>firstOf(chunk) * <usize>passed<i32>(BYTES);
}

// @ts-ignore: decorator
@inline
export function endList(chunk: i32, end: usize): void {
  tell(chunk, i32x4.splat(<i32>(end - beginList(chunk))));
}
