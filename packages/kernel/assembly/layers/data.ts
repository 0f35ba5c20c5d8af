// What contact of cloth with itself and with other cloth works on. Core lays everything out and writes the
// addresses into one block of u32 (packages/core/src/solver/layers/layerContact.ts owns the order).
//
// points, displacement, residual, start: see ../state.ts. Per point, 16 bytes each:
//   centre   place at the last query; w is the trust radius in m
//   plan     planned motion a substep; w is the trust radius that the listed pairs were chosen with
//   scratch  room for averaging
//   rest     place in the rest shape; w is 1 where layers are so thick that neighbours would touch at rest
// rings: u32 starts (points + 1), then byte offsets of each point's ring, itself first.
// faces: u32 starts (points + 1), then the triangles around each point.
//
// A triangle takes 32 bytes: 3 byte offsets; u32 owned features (bits 0 to 2 corners, 3 to 5 the edges 01, 12,
// 20; every point and edge of a cloth is owned by one triangle; bit 6: it passes through its own cloth); f32 half thickness in m; f32 root of friction;
// u32 its leaf; u32 cloth.
//
// A node takes 64 bytes: f32 x 3 low corner grown by the trust radius, u32 first child (the second is the
// next), or the triangle of a leaf; f32 x 3 high corner, u32 1 for a leaf, else 0; f32 x 4 least and f32 x 4 most planned motion over
// the whole horizon. Parents come before their children; `parents` has the parent of each node, or -1.
//
// A cloth takes 32 bytes: u32 first point, u32 points, u32 root, unused, f32 the largest thickness in m that it keeps from anything,
// f32 spacing in m.
//
// meetings: how each cloth meets each, row by row, 16 bytes each: u32 1 when they touch, f32 the distance that they keep in m and f32 their
// friction, both negative where it is as the triangles have it; unused.
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
/** Where a query lists pairs before they are in order, and the u32 number of the block of it that follows each; see listing.ts. */
export let links: usize = 0;
export let blockCapacity: i32 = 0;
/** What is gone through by a query, see descent.ts. */
export let tasks: usize = 0;
export let escaped: usize = 0;
export let flags: usize = 0;
export let zones: usize = 0;
export let zoneSums: usize = 0;
export let touched: usize = 0;
export let faceFlags: usize = 0;
/** Displacements as they were when all pairs were looked at, 16 bytes a point; see settled.ts. */
export let settled: usize = 0;
export let pointCount: i32 = 0;
export let triangleCount: i32 = 0;
export let nodeCount: i32 = 0;
export let clothCount: i32 = 0;
export let pairCapacity: i32 = 0;
/** A byte a point: 1 where cloth crosses, so that nothing is kept apart there until it is pulled out. */
export let tangled: usize = 0;

/** A u32 a point: byte offset of the first of all points that it is sewn to, and 1 more where it starts away from that; 0 where nothing is sewn in the run. */
export let sewn: usize = 0;

/** Addresses of pairs that are nearly too near; see settled.ts. */
export let notes: usize = 0;

/** Addresses of pairs that a pass has to look at; see sift.ts. */
export let sifted: usize = 0;

/** Where core wrote all that. */
export let dataBlock: usize = 0;

/** Takes over the addresses and counts that core wrote. Each thread has its own. */
export function setLayerData(block: usize): void {
  dataBlock = block;
  points = load<u32>(block, 0);
  displacement = load<u32>(block, 4);
  residual = load<u32>(block, 8);
  centre = load<u32>(block, 12);
  plan = load<u32>(block, 16);
  scratch = load<u32>(block, 20);
  rest = load<u32>(block, 24);
  rings = load<u32>(block, 28);
  faces = load<u32>(block, 32);
  triangles = load<u32>(block, 36);
  nodes = load<u32>(block, 40);
  parents = load<u32>(block, 44);
  cloths = load<u32>(block, 48);
  pairs = load<u32>(block, 52);
  spare = load<u32>(block, 56);
  tasks = load<u32>(block, 60);
  escaped = load<u32>(block, 64);
  flags = load<u32>(block, 68);
  zones = load<u32>(block, 72);
  zoneSums = load<u32>(block, 76);
  touched = load<u32>(block, 80);
  faceFlags = load<u32>(block, 84);
  pointCount = load<i32>(block, 88);
  triangleCount = load<i32>(block, 92);
  nodeCount = load<i32>(block, 96);
  clothCount = load<i32>(block, 100);
  pairCapacity = load<i32>(block, 104);
  tangled = load<u32>(block, 108);
  start = load<u32>(block, 112);
  settled = load<u32>(block, 116);
  meetings = load<u32>(block, 120);
  sewn = load<u32>(block, 124);
  links = load<u32>(block, 128);
  blockCapacity = load<i32>(block, 132);
  notes = load<u32>(block, 136);
  sifted = load<u32>(block, 140);
}
