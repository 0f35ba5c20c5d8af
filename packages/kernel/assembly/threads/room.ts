// Room of each thread's own for what loops keep on a stack. Nothing that changes may lie in the module's own data: each thread that comes writes
// those as they are at first into the memory that all share.

/** Bytes of a thread's room. */
export const ROOM_BYTES: usize = 8192;

/** Nodes still to be visited of boxWalk.ts: 64, 4 bytes each. */
export let walkStack: usize = 0;
/** Of meshDistance.ts: u32 node that is still to be opened, f64 square of the distance to it; 64, 16 bytes each. */
export let distanceStack: usize = 0;
/** Nodes still to be visited of layers/descent.ts and layers/query.ts: two of them, 8 bytes, each. */
export let pairStack: usize = 0;

/** Lets this thread have a room. */
export function takeRoom(room: usize): void {
  walkStack = room;
  distanceStack = room + 256;
  pairStack = room + 1280;
}
