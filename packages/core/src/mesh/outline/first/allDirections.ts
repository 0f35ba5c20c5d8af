import Delaunator from 'delaunator';
import { loopsOf, NO_LINES, rowsOf } from '../allDirections';
import { Borders } from '../borders';
import { drawToMiddles } from '../drawToMiddles';
import { flatArray, triangulate } from '../triangulate';
import type { FlatPlace } from '../path';

// How pieces were meshed in all directions before there was a tile to begin with. What is held and masked in documents of that time is known by the
// points that this makes, so it stays as it is, to the bit, for as long as the piece is cut as it was.

/** Area that a point has where all triangles have equal sides, over the square of their length. */
const SHARE = Math.sqrt(3) / 2;
/** Points nearer to a border than this share of the spacing are left out. */
const OFF_BORDER = 0.62;
/** Rounds in which points go to the middle of what is around them: beyond it, so that it takes fewer; the last ones not. */
const ROUNDS = 32;
const FARTHER = 1.9;
const LAST = 12;
/** After these rounds, points nearer to each other than a share of the spacing are thinned out, and edges longer than one are halved. */
const EVENED = [10, 16, 25];
const CROWDED = 0.7;
const SPARSE = 1.4;

/** As `allDirections` of today. */
export function firstAllDirections(
  loops: readonly (readonly FlatPlace[])[],
  spacing: number,
  lines = NO_LINES,
): { places: Float64Array; triangles: Uint32Array } {
  const fixed = [...loops.flat(), ...lines.places];
  const borders = new Borders(loops, spacing, rowsOf(lines, fixed));
  const seeds = spread(borders, spacing);
  const places = relaxed(flatArray([...fixed, ...seeds]), fixed.length, borders, spacing);
  return { places, triangles: triangulate(places, loopsOf(loops), lines.rows) };
}

/** Evenly spread places within the borders, as dense as the spacing says. */
function spread(borders: Borders, spacing: number): FlatPlace[] {
  const [low, high] = [borders.low, borders.high];
  const size = Math.max(high[0] - low[0], high[1] - low[1]);
  const count = Math.ceil((size * size) / (SHARE * spacing * spacing));
  const found: FlatPlace[] = [];
  const lines = new Map<number, [number, number][]>();
  // Bands of v in which the same edges are passed; a place is then looked up in its line, not in all of the outline.
  const band = spacing / 8;
  for (let i = 1; i <= count; i++) {
    const u = low[0] + size * ((0.5 + i * 0.7548776662466927) % 1);
    const v = low[1] + size * ((0.5 + i * 0.5698402909980532) % 1);
    if (u > high[0] || v > high[1]) continue;
    const at = Math.floor((v - low[1]) / band);
    const line = lines.get(at) ?? borders.inside(low[1] + (at + 0.5) * band);
    lines.set(at, line);
    if (!line.some(([from, to]) => u > from && u < to)) continue;
    // No border passes between it and the middle of its band, which is nearer.
    if (borders.distance([u, v]) > OFF_BORDER * spacing) found.push([u, v]);
  }
  return found;
}

/** Draws all points but the first `fixed` to the middle of the triangles around them, and leaves out or adds some where that crowds or thins them. */
function relaxed(start: Float64Array, fixed: number, borders: Borders, spacing: number): Float64Array {
  // Neighbours lie beside each other in memory too while this lasts; in the end all stand where they stood.
  let { places, ranks } = nearTogether(start, fixed, spacing);
  let delaunay: Delaunator<Float64Array> | null = null;
  for (let round = 0; round < ROUNDS; round++) {
    const last = round >= ROUNDS - LAST;
    // Towards the end who neighbours whom hardly changes, and every other time is enough.
    if (!delaunay) delaunay = new Delaunator(places);
    else if (!last || round % 2 === 0) delaunay.update();
    drawToMiddles(places, delaunay.triangles, [fixed, places.length / 2], borders, spacing, last ? 1 : FARTHER);
    if (!EVENED.includes(round)) continue;
    delaunay.update();
    ({ places, ranks } = evened({ places, ranks }, delaunay.triangles, fixed, borders, spacing));
    delaunay = null;
  }
  const all = new Float64Array(places.length);
  for (let point = 0; point < ranks.length; point++) copyPlace(places, point, all, ranks[point]!);
  return all;
}

/** Places in an order of their own, and where in the order of all each stands. */
interface RankedPlaces {
  places: Float64Array;
  ranks: Uint32Array;
}

/** All but the first `fixed` in the order in which a curve through cells of some spacings reaches them (Morton 1966). */
function nearTogether(start: Float64Array, fixed: number, spacing: number): RankedPlaces {
  const count = start.length / 2;
  const low = [Infinity, Infinity];
  start.forEach((value, i) => (low[i & 1] = Math.min(low[i & 1]!, value)));
  const codes = new Float64Array(count);
  for (let point = fixed; point < count; point++) {
    const [i, j] = [0, 1].map((axis) => Math.floor((start[point * 2 + axis]! - low[axis]!) / (2 * spacing)));
    codes[point] = spreadBits(i!) + 2 * spreadBits(j!);
  }
  const ranks = Uint32Array.from({ length: count }, (_, point) => point);
  ranks.subarray(fixed).sort((a, b) => codes[a]! - codes[b]! || a - b);
  const places = new Float64Array(start.length);
  for (let point = 0; point < count; point++) copyPlace(start, ranks[point]!, places, point);
  return { places, ranks };
}

function copyPlace(from: Float64Array, point: number, to: Float64Array, at: number): void {
  to[at * 2] = from[point * 2]!;
  to[at * 2 + 1] = from[point * 2 + 1]!;
}

/** The lower 16 bits of a number, each with a zero above it. */
function spreadBits(value: number): number {
  let bits = value & 0xffff;
  bits = (bits | (bits << 8)) & 0x00ff00ff;
  bits = (bits | (bits << 4)) & 0x0f0f0f0f;
  bits = (bits | (bits << 2)) & 0x33333333;
  return (bits | (bits << 1)) & 0x55555555;
}

/** Without one of two points that are too near each other, and with one more in the middle of edges that are too long. */
function evened(
  { places, ranks }: RankedPlaces,
  triangles: Uint32Array,
  fixed: number,
  borders: Borders,
  spacing: number,
): RankedPlaces {
  const count = ranks.length;
  const left = new Uint8Array(count);
  const added: number[] = [];
  for (let i = 0; i < triangles.length; i++) {
    const a = triangles[i]!;
    const b = triangles[i % 3 === 2 ? i - 2 : i + 1]!;
    if ((a < fixed && b < fixed) || left[a] || left[b]) continue;
    const du = places[a * 2]! - places[b * 2]!;
    const dv = places[a * 2 + 1]! - places[b * 2 + 1]!;
    const size = Math.sqrt(du * du + dv * dv) / spacing;
    const isFirst = ranks[a]! < ranks[b]!;
    if (size < CROWDED) left[isFirst ? b : a] = 1;
    else if (size > SPARSE && isFirst) {
      const middle: FlatPlace = [places[b * 2]! + du / 2, places[b * 2 + 1]! + dv / 2];
      if (borders.distance(middle) > OFF_BORDER * spacing) added.push(...middle);
    }
  }
  // Those that stay keep their order, and those that are added come after them.
  const goes = new Uint8Array(count);
  for (let point = 0; point < count; point++) goes[ranks[point]!] = left[point]!;
  const moved = new Uint32Array(count);
  let kept = 0;
  for (let rank = 0; rank < count; rank++) moved[rank] = goes[rank] ? kept : kept++;
  const next = { places: new Float64Array(kept * 2 + added.length), ranks: new Uint32Array(kept + added.length / 2) };
  let point = 0;
  for (let old = 0; old < count; old++) {
    if (left[old]) continue;
    copyPlace(places, old, next.places, point);
    next.ranks[point++] = moved[ranks[old]!]!;
  }
  next.places.set(added, kept * 2);
  for (; point < next.ranks.length; point++) next.ranks[point] = point;
  return next;
}
