import { squareOf } from '../vectors';
import { beginList, endList, listInRange } from '../threads/lists';
import { pass, passed } from '../threads/pool';
import { endOf, firstOf } from '../threads/ranges';
import { dataBlock, displacement, pairs, setLayerData, settled, sifted, pairTotal, sortedPairs } from './data';
import { normalOf, projections, sumOfLanes } from './measure';
import { marginAlong, SLACK } from './settled';
import * as Pair from '../../layouts/layers/featurePair';

// A pass over the pairs sees in each what it did in those before, so threads cannot share it. But most pairs are too far apart to be of interest in
// it, whatever it does: threads list the others beforehand. That holds as long as no point has moved by half of BAND since; where one has, the
// pass goes on over all pairs.

/** In m. What moves points in a pass moves them by much less. */
const BAND: f32 = 0.002;
/** Somewhat less than half of that, for rounding, squared. */
const MOST_MOVE: f32 = 0.95e-3 * 0.95e-3;
/** Pairs that a thread takes at a time. */
const CHUNK: i32 = 128;

/** Whether a point has moved so far that what was sifted out may be of interest. */
export let isVoid: bool = false;

/**
 * Lists the awake pairs that may come nearer than what they keep, with `touching`, or than where they are noted; `beginSettled` has kept where points are.
 * Returns how many there are.
 */
export function siftPairs(awake: i32, touching: bool): i32 {
  isVoid = false;
  pass<usize>(0, dataBlock);
  pass<bool>(1, touching);
  pass<i32>(2, 0);
  let end = listInRange(siftChunk.index, awake, CHUNK, sifted, 4);
  pass<i32>(2, sortedPairs());
  end = listInRange(siftChunk.index, pairTotal() - sortedPairs(), CHUNK, end, 4);
  return <i32>((end - sifted) >> 2);
}

function siftChunk(chunk: i32): void {
  setLayerData(passed<usize>(0));
  const touching = passed<bool>(1);
  const first = passed<i32>(2);
  let to = beginList(chunk);
  for (let n = first + firstOf(chunk), end = first + endOf(chunk); n < end; n++) {
    const pair = pairs + <usize>n * Pair.BYTES;
    const q = projections(pair, normalOf(pair));
    const far =
      marginAlong(pair, q) >= 2 * SLACK + BAND &&
      (!touching || sumOfLanes(f32x4.mul(v128.load(pair, Pair.WEIGHTS), q)) >= load<f32>(pair, Pair.DISTANCE) + BAND);
    if (far) continue;
    store<u32>(to, <u32>pair);
    to += 4;
  }
  endList(chunk, to);
}

// @ts-ignore: decorator
@inline
export function siftedPair(n: i32): usize {
  return <usize>load<u32>(sifted + (<usize>n << 2));
}

/** The number of a pair in the list of all. */
export function numberOf(pair: usize): i32 {
  return <i32>((pair - pairs) / Pair.BYTES);
}

/** A pass has moved a point. */
// @ts-ignore: decorator
@inline
export function noteMoved(o: usize): void {
  if (squareOf(f32x4.sub(v128.load(displacement + o), v128.load(settled + o))) > MOST_MOVE) isVoid = true;
}
