import type { Mesh } from '../mesh/mesh';
import { topology } from '../mesh/topology';

/** Points at a frame, the frame after, and the frames before and behind those where the take has them; x y z in m. */
export type FramesAround = readonly [
  before: Float32Array | null,
  from: Float32Array,
  to: Float32Array,
  after: Float32Array | null,
];

/** Where the points of a cloth are: at a frame of its take, or at a share of the way from one to the next. */
export type ShownPlaces = Float32Array | { around: FramesAround; share: number };

/** The places themselves, x y z in m: of a whole frame those that were given. */
export function placesShown(mesh: Mesh, places: ShownPlaces): Float32Array {
  return places instanceof Float32Array ? places : between(mesh, places.around, places.share);
}

/** A point's speed at a frame is at most so many times its way to the frame before or after, whichever is shorter: what comes to rest does not go on. */
const MOST_SPEED = 1.5;
/** Edges are as long as they should be where all are within this. More passes are of little use: what is left are folds that jump. */
const CLOSE = 0.001;
const MOST_PASSES = 80;

/**
 * Cloth at a share of the way, above 0 and below 1, from a frame to the next: points go along cubic curves (Catmull and Rom 1974), then
 * edges become no shorter and no longer than they are at both frames, so that what turns does not shrink.
 */
export function between(mesh: Mesh, around: FramesAround, share: number): Float32Array {
  const [, from, to] = around;
  const places = alongCurves(around, share);
  const { edgePoints, edgeCount } = topology(mesh);
  // What is sewn is one point, so that no seam opens.
  const one = sewnTogether(mesh, from, to);
  const ends = Uint32Array.from(edgePoints, (point) => one[point]! * 3);
  const [shortest, longest] = [new Float64Array(edgeCount), new Float64Array(edgeCount)];
  for (let edge = 0; edge < edgeCount; edge++) {
    const [a, b] = [ends[edge * 2]!, ends[edge * 2 + 1]!];
    const [early, late] = [distance(from, a, b), distance(to, a, b)];
    shortest[edge] = Math.min(early, late);
    longest[edge] = Math.max(early, late);
  }
  // To and fro, so that a correction goes through the whole cloth either way.
  for (let pass = 0; pass < MOST_PASSES; pass++) {
    let worst = 0;
    for (let n = 0; n < edgeCount; n++) {
      const edge = pass % 2 === 0 ? n : edgeCount - 1 - n;
      const [a, b] = [ends[edge * 2]!, ends[edge * 2 + 1]!];
      const now = distance(places, a, b);
      const wanted = Math.min(longest[edge]!, Math.max(shortest[edge]!, now));
      if (wanted === now || !(now > 0)) continue;
      worst = Math.max(worst, Math.abs(now / wanted - 1));
      const half = (0.5 * (wanted - now)) / now;
      for (let axis = 0; axis < 3; axis++) {
        const by = half * (places[b + axis]! - places[a + axis]!);
        places[a + axis]! -= by;
        places[b + axis]! += by;
      }
    }
    if (worst < CLOSE) break;
  }
  return Float32Array.from(places, (_, i) => places[one[Math.floor(i / 3)]! * 3 + (i % 3)]!);
}

/** Per point the one that it is moved with: the first that it is sewn to, where they are together at both frames; else itself. */
function sewnTogether({ sewn, positions }: Mesh, from: Float32Array, to: Float32Array): Uint32Array {
  const isOne = (a: number, b: number) =>
    [from, to].every((p) => [0, 1, 2].every((axis) => p[a * 3 + axis] === p[b * 3 + axis]));
  return Uint32Array.from({ length: positions.length / 3 }, (_, point) => {
    const first = sewn?.[point] ?? point;
    return first !== point && isOne(first, point) ? first : point;
  });
}

function distance(p: ArrayLike<number>, a: number, b: number): number {
  const x = p[a]! - p[b]!,
    y = p[a + 1]! - p[b + 1]!,
    z = p[a + 2]! - p[b + 2]!;
  return Math.sqrt(x * x + y * y + z * z);
}

function alongCurves([before, from, to, after]: FramesAround, t: number): Float64Array {
  const places = new Float64Array(from.length);
  const ofFrom = 1 - 3 * t * t + 2 * t * t * t,
    ofTo = 1 - ofFrom,
    ofSpeed = t - 2 * t * t + t * t * t,
    ofLaterSpeed = t * t * t - t * t;
  const [speed, later] = [new Float64Array(3), new Float64Array(3)];
  for (let at = 0; at < from.length; at += 3) {
    speedAt(before, from, to, at, speed, false);
    speedAt(from, to, after, at, later, true);
    for (let axis = 0; axis < 3; axis++) {
      places[at + axis] =
        ofFrom * from[at + axis]! + ofTo * to[at + axis]! + ofSpeed * speed[axis]! + ofLaterSpeed * later[axis]!;
    }
  }
  return places;
}

/** How far a point goes in a frame at the middle one of three; at an end of the take as far as to its neighbour. */
function speedAt(
  before: Float32Array | null,
  here: Float32Array,
  after: Float32Array | null,
  at: number,
  out: Float64Array,
  atEnd: boolean,
): void {
  if (!before || !after) {
    const [first, second] = atEnd ? [before!, here] : [here, after!];
    for (let axis = 0; axis < 3; axis++) out[axis] = second[at + axis]! - first[at + axis]!;
    return;
  }
  let [ahead, behind, whole] = [0, 0, 0];
  for (let axis = 0; axis < 3; axis++) {
    out[axis] = (after[at + axis]! - before[at + axis]!) / 2;
    ahead += (after[at + axis]! - here[at + axis]!) ** 2;
    behind += (here[at + axis]! - before[at + axis]!) ** 2;
    whole += out[axis]! ** 2;
  }
  const most = MOST_SPEED * Math.sqrt(Math.min(ahead, behind));
  const size = Math.sqrt(whole);
  if (size <= most) return;
  for (let axis = 0; axis < 3; axis++) out[axis]! *= most / size;
}
