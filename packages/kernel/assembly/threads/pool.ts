// Loops on several threads. A loop is cut into chunks that do not depend on each other; which thread takes which chunk changes nothing of what
// comes out, so one thread and four give the same bits. Every thread is an instance of this module on one shared memory: what globals hold is
// each thread's own, so a chunk reads what it works on from the job's numbers and not from globals that only the main thread has set.
//
// A pool takes POOL_BYTES, in lines of 64 bytes that threads do not share needlessly:
//   0 i32 chunks that are done | 4 i32 1 while the main thread sleeps until they are
//   64 i32 number of the job, on which helpers sleep | 68 i32 helpers asleep | 72 i32 1 while helpers are to stay
//   128 i32 threads that chunks are dealt to | 132 i32 chunks | 136 u32 table index of the loop | 144 its numbers, 8 bytes each
//   320 + 64 t: i32 chunks that are left of those dealt to thread t; not positive when there are none
//   then 16 bytes for what each chunk tells, and the room of each thread
//
// The counters of chunks left are written last and taken atomically, so whoever gets a chunk sees the numbers of its job; and no job is
// written before all chunks of the one before are done.

import { ROOM_BYTES, takeRoom } from './room';

const DONE: usize = 0;
const MAIN_SLEEPS: usize = 4;
const JOB: usize = 64;
const ASLEEP: usize = 68;
const OPEN: usize = 72;
const DEALT: usize = 128;
const CHUNKS: usize = 132;
const LOOP: usize = 136;
const NUMBERS: usize = 144;
/** Which of the numbers is the counter. */
const COUNTER: usize = 16;
const LEFT: usize = 320;
const LINE: usize = 64;
/** Chunks are dealt to so many threads at most. */
const MOST_THREADS: i32 = 16;
const TOLD: usize = LEFT + LINE * <usize>MOST_THREADS;
/** A loop has so many chunks at most: there is room for what each of them tells. */
export const MOST_CHUNKS: i32 = 1024;
const ROOMS: usize = TOLD + 16 * <usize>MOST_CHUNKS;
const POOL_BYTES: usize = ROOMS + ROOM_BYTES * <usize>MOST_THREADS;

/** How often a thread looks again before it sleeps: long enough for what is done between two loops, short enough to leave the processor to others. */
const LOOKS: i32 = 20000;
/** After so many sleeps, some 4 s, a helper that has not ended its chunk is given up. */
const MOST_SLEEPS: i32 = 4000;

// Sleeping and waking are left to the host: where `memory.atomic.wait32` was used here, what V8 of Node 20 compiled first lost the subtraction that
// followed it, and one run in four hung.
/** Sleeps for a ms at most, or until it is woken, while an address holds a value; returns whether it was neither woken nor changed. */
// @ts-ignore: decorator
@external("env", "sleep")
declare function sleep(address: usize, value: i32): bool;
/** Wakes who sleeps on an address. */
// @ts-ignore: decorator
@external("env", "wake")
declare function wake(address: usize): void;

let pool: usize = 0;
let threads: i32 = 1;
let lost: bool = false;

/** Bytes of a pool, for whoever lays it out. */
export function poolBytes(): usize {
  return POOL_BYTES;
}

/** On the main thread: from here on loops run on this many threads, those of them that come. */
export function openPool(address: usize, count: i32): void {
  pool = address;
  takeRoom(pool + ROOMS);
  threads = min(count, MOST_THREADS);
  if (threads > 1) atomic.store<i32>(pool + OPEN, 1);
}

/** On how many of the pool's threads the next loops run. */
export function shareWith(count: i32): void {
  threads = min(count, MOST_THREADS);
}

/** Whether the last loop trapped since a helper had not ended its chunk. */
export function isHelperLost(): bool {
  return lost;
}

/** Sends helpers away; from here on loops run on the main thread alone. */
export function closePool(): void {
  threads = 1;
  if (atomic.load<i32>(pool + OPEN) == 0) return;
  atomic.store<i32>(pool + OPEN, 0);
  atomic.add<i32>(pool + JOB, 1);
  wake(pool + JOB);
}

/** Whether loops run on this thread only. */
// @ts-ignore: decorator
@inline
export function isAlone(): bool {
  return threads <= 1;
}

/** Sets a number of the next job: an address or a count. */
// @ts-ignore: decorator
@inline
export function pass<T>(n: usize, value: T): void {
  store<T>(pool + NUMBERS + (n << 3), value);
}

/** A number of the job, in a chunk of it. */
// @ts-ignore: decorator
@inline
export function passed<T>(n: usize): T {
  return load<T>(pool + NUMBERS + (n << 3));
}

/** A number of the job that its chunks may add to atomically. */
// @ts-ignore: decorator
@inline
export function counter(): usize {
  return pool + NUMBERS + (COUNTER << 3);
}

/** Keeps what a chunk has found for whoever asked. */
// @ts-ignore: decorator
@inline
export function tell(chunk: i32, what: v128): void {
  v128.store(pool + TOLD + (<usize>chunk << 4), what);
}

// @ts-ignore: decorator
@inline
export function told(chunk: i32): v128 {
  return v128.load(pool + TOLD + (<usize>chunk << 4));
}

/**
 * Runs all chunks of a loop, a function of a chunk's number by its index in the module's table, and returns when they are done. Traps when a
 * helper does not end its chunk.
 */
export function inChunks(loop: u32, chunks: i32): void {
  if (threads <= 1 || chunks <= 1) {
    for (let chunk = 0; chunk < chunks; chunk++) call_indirect<void>(loop, chunk);
    return;
  }
  store<i32>(pool + DEALT, threads);
  store<i32>(pool + CHUNKS, chunks);
  store<u32>(pool + LOOP, loop);
  atomic.store<i32>(pool + DONE, 0);
  for (let t = 0; t < threads; t++) atomic.store<i32>(leftOf(t), shareOf(t + 1, threads, chunks) - shareOf(t, threads, chunks));
  atomic.add<i32>(pool + JOB, 1);
  if (atomic.load<i32>(pool + ASLEEP) > 0) wake(pool + JOB);
  work(0);
  awaitDone(chunks);
}

// @ts-ignore: decorator
@inline
function leftOf(thread: i32): usize {
  return pool + LEFT + <usize>thread * LINE;
}

/** The first chunk that is dealt to a thread. */
// @ts-ignore: decorator
@inline
function shareOf(thread: i32, dealt: i32, chunks: i32): i32 {
  return (thread * chunks) / dealt;
}

/** Does the chunks that were dealt to a thread, then what others have left: so what a thread has near from the last loop it mostly has again. */
function work(self: i32): void {
  let mine = 0;
  const dealt = load<i32>(pool + DEALT);
  for (let n = 0; n < dealt; n++) {
    const thread = (self + n) % dealt;
    const left = leftOf(thread);
    while (atomic.load<i32>(left) > 0) {
      const taken = atomic.add<i32>(left, -1);
      if (taken <= 0) break;
      // What the job says is read only now: it may be another than when the count was looked at.
      const now = load<i32>(pool + DEALT),
        chunks = load<i32>(pool + CHUNKS);
      call_indirect<void>(load<u32>(pool + LOOP), shareOf(thread + 1, now, chunks) - taken);
      mine++;
    }
  }
  if (mine == 0) return;
  atomic.add<i32>(pool + DONE, mine);
  if (self != 0 && atomic.load<i32>(pool + MAIN_SLEEPS) != 0) wake(pool + DONE);
}

function awaitDone(chunks: i32): void {
  for (let look = 0; look < LOOKS; look++) if (atomic.load<i32>(pool + DONE) == chunks) return;
  atomic.store<i32>(pool + MAIN_SLEEPS, 1);
  for (let sleeps = 0; ; ) {
    const done = atomic.load<i32>(pool + DONE);
    if (done == chunks) break;
    if (!sleep(pool + DONE, done) || ++sleeps <= MOST_SLEEPS) continue;
    lost = true;
    unreachable();
  }
  atomic.store<i32>(pool + MAIN_SLEEPS, 0);
}

/** On a helper: takes part in loops, as thread `self` from 1, until the pool is closed. */
export function serve(address: usize, self: i32): void {
  pool = address;
  takeRoom(pool + ROOMS + <usize>self * ROOM_BYTES);
  for (;;) {
    const job = atomic.load<i32>(pool + JOB);
    work(self);
    if (atomic.load<i32>(pool + OPEN) == 0) return;
    for (let look = 0; look < LOOKS && atomic.load<i32>(pool + JOB) == job; look++);
    if (atomic.load<i32>(pool + JOB) != job) continue;
    atomic.add<i32>(pool + ASLEEP, 1);
    sleep(pool + JOB, job);
    atomic.add<i32>(pool + ASLEEP, -1);
  }
}
