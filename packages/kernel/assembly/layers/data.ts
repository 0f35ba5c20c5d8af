import * as Block from '../../layouts/layers/layerBlock';

// What contact of cloth with itself and with other cloth works on: the addresses and numbers that core wrote into a layerBlock, where it says what
// they are. Each thread has them at hand here.
export let points: usize = 0;
export let displacement: usize = 0;
export let residual: usize = 0;
export let start: usize = 0;
export let centre: usize = 0;
export let plan: usize = 0;
export let scratch: usize = 0;
export let rest: usize = 0;
export let rings: usize = 0;
export let faces: usize = 0;
export let triangles: usize = 0;
export let nodes: usize = 0;
export let parents: usize = 0;
export let cloths: usize = 0;
export let meetings: usize = 0;
export let pairs: usize = 0;
export let spare: usize = 0;
export let links: usize = 0;
export let blockCapacity: i32 = 0;
export let tasks: usize = 0;
export let escaped: usize = 0;
export let flags: usize = 0;
export let zones: usize = 0;
export let zoneSums: usize = 0;
export let touched: usize = 0;
export let faceFlags: usize = 0;
export let settled: usize = 0;
export let pointCount: i32 = 0;
export let triangleCount: i32 = 0;
export let nodeCount: i32 = 0;
export let clothCount: i32 = 0;
export let pairCapacity: i32 = 0;
export let tangled: usize = 0;
export let sewn: usize = 0;
export let notes: usize = 0;
export let sifted: usize = 0;
export let wakes: usize = 0;
export let stars: usize = 0;
export let spans: usize = 0;

/** Where core wrote all that. */
export let dataBlock: usize = 0;

// What changes from one call to the next lies in the block.

// @ts-ignore: decorator
@inline
export function pairTotal(): i32 {
  return load<i32>(dataBlock, Block.PAIR_TOTAL);
}

// @ts-ignore: decorator
@inline
export function sortedPairs(): i32 {
  return load<i32>(dataBlock, Block.SORTED_PAIRS);
}

/** Adds to a number of the block. */
// @ts-ignore: decorator
@inline
export function countIn(field: usize, more: i32): void {
  store<i32>(dataBlock + field, load<i32>(dataBlock + field) + more);
}

/** Takes over the addresses and counts that core wrote. Each thread has its own. */
export function setLayerData(block: usize): void {
  dataBlock = block;
  points = load<u32>(block, Block.POINTS);
  displacement = load<u32>(block, Block.DISPLACEMENT);
  residual = load<u32>(block, Block.RESIDUAL);
  centre = load<u32>(block, Block.CENTRE);
  plan = load<u32>(block, Block.PLAN);
  scratch = load<u32>(block, Block.SCRATCH);
  rest = load<u32>(block, Block.REST);
  rings = load<u32>(block, Block.RINGS);
  faces = load<u32>(block, Block.FACES);
  triangles = load<u32>(block, Block.TRIANGLES);
  nodes = load<u32>(block, Block.NODES);
  parents = load<u32>(block, Block.PARENTS);
  cloths = load<u32>(block, Block.CLOTHS);
  pairs = load<u32>(block, Block.PAIRS);
  spare = load<u32>(block, Block.SPARE);
  tasks = load<u32>(block, Block.TASKS);
  escaped = load<u32>(block, Block.ESCAPED);
  flags = load<u32>(block, Block.FLAGS);
  zones = load<u32>(block, Block.ZONES);
  zoneSums = load<u32>(block, Block.ZONE_SUMS);
  touched = load<u32>(block, Block.TOUCHED);
  faceFlags = load<u32>(block, Block.FACE_FLAGS);
  pointCount = load<i32>(block, Block.POINT_COUNT);
  triangleCount = load<i32>(block, Block.TRIANGLE_COUNT);
  nodeCount = load<i32>(block, Block.NODE_COUNT);
  clothCount = load<i32>(block, Block.CLOTH_COUNT);
  pairCapacity = load<i32>(block, Block.PAIR_CAPACITY);
  tangled = load<u32>(block, Block.TANGLED);
  start = load<u32>(block, Block.START);
  settled = load<u32>(block, Block.SETTLED);
  meetings = load<u32>(block, Block.MEETINGS);
  sewn = load<u32>(block, Block.SEWN);
  links = load<u32>(block, Block.LINKS);
  blockCapacity = load<i32>(block, Block.BLOCK_CAPACITY);
  notes = load<u32>(block, Block.NOTES);
  sifted = load<u32>(block, Block.SIFTED);
  wakes = load<u32>(block, Block.WAKES);
  stars = load<u32>(block, Block.STARS);
  spans = load<u32>(block, Block.SPANS);
}
