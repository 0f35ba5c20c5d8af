import { blockCapacity, links, spare } from './data';
import { counter, tell, told } from '../threads/pool';
import * as Pair from '../../layouts/layers/featurePair';

// Pairs as threads list them. Each chunk of a loop takes one block of room after another from what all have, so nothing is counted
// beforehand; read chunk by chunk they lie in the order in which one thread would have found them.

/** Pairs in a block. */
const BLOCK: i32 = 16;
/** So many chunks list at once at most; each may leave a block half empty. */
const MOST_LISTING: i32 = 256;

/** In how many blocks so many pairs are listed, at most. */
export function blocksFor(pairCount: i32): i32 {
  return (pairCount + BLOCK - 1) / BLOCK + MOST_LISTING;
}

/** Bytes of a block, for whoever lays it out. */
export function blockBytes(): usize {
  return <usize>BLOCK * Pair.BYTES;
}

let firstBlock: i32 = -1;
let block: i32 = -1;
let slot: usize = 0;
let left: i32 = 0;
let count: i32 = 0;

/** Before a loop that lists. */
export function clearListing(): void {
  store<i32>(counter(), 0);
}

/** How many of so many things a chunk takes, at least `least`. */
export function listingSize(things: i32, least: i32): i32 {
  return max(least, (things + MOST_LISTING - 1) / MOST_LISTING);
}

export function beginListing(): void {
  firstBlock = block = -1;
  left = count = 0;
}

/** Room for one more pair, or 0 where there is none left: it counts nevertheless. */
export function roomForPair(): usize {
  count++;
  if (left == 0) {
    const next = atomic.add<i32>(counter(), 1);
    if (next >= blockCapacity) return 0;
    if (firstBlock < 0) firstBlock = next;
    else store<i32>(links + (<usize>block << 2), next);
    block = next;
    slot = spare + <usize>next * (<usize>BLOCK * Pair.BYTES);
    left = BLOCK;
  }
  const at = slot;
  slot += Pair.BYTES;
  left--;
  return at;
}

export function endListing(chunk: i32): void {
  tell(chunk, i32x4(count, firstBlock, 0, 0));
}

/** How many pairs a chunk has listed, whether there was room for them or not. */
export function listedBy(chunk: i32): i32 {
  return i32x4.extract_lane(told(chunk), 0);
}

let readBlock: i32 = -1;
let readLeft: i32 = 0;
let readSlot: usize = 0;

/** Begins to read what a chunk has listed, if there was room. */
export function beginReading(chunk: i32): void {
  readBlock = i32x4.extract_lane(told(chunk), 1);
  readSlot = spare + <usize>readBlock * (<usize>BLOCK * Pair.BYTES);
  readLeft = BLOCK;
}

/** The next pair that was listed; ask only for as many as there are. */
export function readPair(): usize {
  if (readLeft == 0) {
    readBlock = load<i32>(links + (<usize>readBlock << 2));
    readSlot = spare + <usize>readBlock * (<usize>BLOCK * Pair.BYTES);
    readLeft = BLOCK;
  }
  const at = readSlot;
  readSlot += Pair.BYTES;
  readLeft--;
  return at;
}
