// Where everything lies that contact of cloth with cloth works on: one block a run; see assembly/layers/data.ts. All u32: addresses, and numbers
// of things. What is of each point has 16 bytes each where nothing else is said.
export const BYTES = 184;
/** Arrays of points; see assembly/state.ts. */
export const POINTS = 0;
export const DISPLACEMENT = 4;
export const RESIDUAL = 8;
/** Place of each point at the last query; w is the radius in m of the ball that it is trusted to stay in. */
export const CENTRE = 12;
/** Planned motion a substep of each point; w is the radius that the listed pairs were chosen with. */
export const PLAN = 16;
/** Room for averaging. */
export const SCRATCH = 20;
/** Place of each point in the rest shape; w is 1 where layers are so thick that neighbours would touch at rest. */
export const REST = 24;
/** u32 starts (points + 1), then byte offsets of each point's ring, itself first. */
export const RINGS = 28;
/** u32 starts (points + 1), then the triangles around each point. */
export const FACES = 32;
/** layerTriangles, layerNodes, i32 parent of each node or -1, layerCloths. */
export const TRIANGLES = 36;
export const NODES = 40;
export const PARENTS = 44;
export const CLOTHS = 48;
/** Room for featurePairs, and for the blocks that a query lists them in before they are in order; see assembly/layers/listing.ts. */
export const PAIRS = 52;
export const SPARE = 56;
/** What is gone through by a query; see assembly/layers/descent.ts. */
export const TASKS = 60;
/** Byte offsets of points outside their balls. */
export const ESCAPED = 64;
/** A byte a point. */
export const FLAGS = 68;
/** Rigid zones: the zone of each point, and room for their sums; see assembly/layers/forbidCrossing.ts. */
export const ZONES = 72;
export const ZONE_SUMS = 76;
/** Triangles that are touched, and room for crossings. */
export const TOUCHED = 80;
/** A byte a triangle. */
export const FACE_FLAGS = 84;
export const POINT_COUNT = 88;
export const TRIANGLE_COUNT = 92;
export const NODE_COUNT = 96;
export const CLOTH_COUNT = 100;
export const PAIR_CAPACITY = 104;
/** A byte a point: 1 where cloth crosses, so that nothing is kept apart there until it is pulled out. */
export const TANGLED = 108;
/** An array of points; see assembly/state.ts. */
export const START = 112;
/** Displacements as they were when all pairs were looked at; see assembly/layers/settled.ts. */
export const SETTLED = 116;
/** How each cloth meets each: meetings, row by row. */
export const MEETINGS = 120;
/** A u32 a point: byte offset of the first of all points that it is sewn to, and 1 more where it starts away from that; 0 where nothing is sewn in the run. */
export const SEWN = 124;
/** The u32 number of the block that follows each in SPARE, and how many blocks there are room for. */
export const LINKS = 128;
export const BLOCK_CAPACITY = 132;
/** Addresses of pairs that are nearly too near (settled.ts), and of those that a pass has to look at (sift.ts). */
export const NOTES = 136;
export const SIFTED = 140;
/** A u32 for each substep of the horizon: how many of the sorted pairs are awake at it. */
export const WAKES = 144;
/** Pairs in the list, more than its capacity when it is too short; and how many of them the query listed, sorted by the substep that wakes them. */
export const PAIR_TOTAL = 148;
export const SORTED_PAIRS = 152;
/** The substep in which all pairs were looked at, how many these were, and how many of them are noted; see assembly/layers/settled.ts. */
export const SETTLED_STEP = 156;
export const SETTLED_PAIRS = 160;
export const NOTED_PAIRS = 164;
/** Pairs that were split, and points that were joined into zones, since core set these to 0. */
export const SPLITS = 168;
export const ZONE_POINTS = 172;

/** A star a point, and f32 x 4 a triangle: its normal, as long as its least height, and the length of its longest side; see assembly/layers/stars.ts. */
export const STARS = 176;
export const SPANS = 180;

/** Bytes of WAKES. */
export const WAKES_BYTES = 520;
