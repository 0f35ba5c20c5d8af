import Delaunator from 'delaunator';
import { Borders } from './borders';
import { drawToMiddles, NEAREST_BORDER } from './drawToMiddles';
import { evenTile, TILE } from './evenTile';
import { keepDelaunay } from './keepDelaunay';
import { triangulate } from './triangulate';
import type { FlatPlace } from './path';

/** Lines within borders, along which a mesh is to have edges. */
export interface FixedLines {
  /** Their places that are not on a border, in order. */
  places: readonly FlatPlace[];
  /** The points of each, in order: those of the borders count from 0, then these. */
  rows: readonly (readonly number[])[];
}

/** No lines. */
export const NO_LINES: FixedLines = { places: [], rows: [] };

/** Points nearer to a border than this share of the spacing are left out. */
const OFF_BORDER = 0.62;
/** Rounds in which points go to the middle of what is around them; beyond it, so that it takes fewer; the last ones not. */
const ROUNDS = 20;
const FARTHER = 1.5;
const LAST = 9;
/** After these rounds, points nearer to each other than a share of the spacing are thinned out, and edges longer than one are halved. */
const EVENED = [4, 9, 14];
/** Points within so many edges of a border are drawn. */
const FITTED = 7;
const CROWDED = 0.7;
const SPARSE = 1.36;

/**
 * Places within borders so that nearly all triangles are nearly even, and none of their directions is preferred: those of a tile that is as even
 * already (`evenTile`), each drawn to the middle of the triangles around it until they suit the borders (Chen and Holst 2011, centroidal patch
 * triangulations).
 *
 * @param loops borders, sampled at the spacing
 * @param spacing in m
 * @param lines within, whose points stay where they are
 * @returns u v of all points, those of the borders first, then those of the lines, in order; and the triangles
 */
export function allDirections(
  loops: readonly (readonly FlatPlace[])[],
  spacing: number,
  lines = NO_LINES,
): { places: Float64Array; triangles: Uint32Array } {
  const fixed = [...loops.flat(), ...lines.places];
  const borders = new Borders(loops, spacing, rowsOf(lines, fixed));
  const seeds = spread(borders, spacing);
  const places = relaxed(Float64Array.from([...fixed.flat(), ...seeds]), fixed.length, borders, spacing);
  return { places, triangles: triangulate(places, loopsOf(loops), lines.rows) };
}

/** The places of each line. */
export function rowsOf({ rows }: FixedLines, places: readonly FlatPlace[]): FlatPlace[][] {
  return rows.map((row) => row.map((point) => places[point]!));
}

/** The points of each loop, counted through. */
export function loopsOf(loops: readonly (readonly FlatPlace[])[]): number[][] {
  let first = 0;
  return loops.map((loop) => {
    const points = loop.map((_, i) => first + i);
    first += loop.length;
    return points;
  });
}

/** The places of the even tile within the borders, laid out from their corner as often as it takes. */
function spread(borders: Borders, spacing: number): number[] {
  const [low, high] = [borders.low, borders.high];
  const tile = evenTile();
  const size = TILE * spacing;
  const found: number[] = [];
  const lines = new Map<number, [number, number][]>();
  // Bands of v in which the same edges are passed; a place is then looked up in its line, not in all of the outline.
  const band = spacing / 8;
  for (let up = low[1]; up < high[1]; up += size) {
    for (let left = low[0]; left < high[0]; left += size) {
      for (let i = 0; i < tile.length; i += 2) {
        const u = left + tile[i]! * spacing;
        const v = up + tile[i + 1]! * spacing;
        if (u > high[0] || v > high[1]) continue;
        const at = Math.floor((v - low[1]) / band);
        const line = lines.get(at) ?? borders.inside(low[1] + (at + 0.5) * band);
        lines.set(at, line);
        if (!line.some(([from, to]) => u > from && u < to)) continue;
        // No border passes between it and the middle of its band, which is nearer.
        if (borders.isNear(u, v) && !(borders.distance([u, v]) > OFF_BORDER * spacing)) continue;
        found.push(u, v);
      }
    }
  }
  return found;
}

/**
 * Draws points near the borders, but for the first `fixed`, to the middle of the triangles around them, and leaves out or adds some where that crowds or
 * thins them. Those that are far from all borders lie as evenly as they will.
 */
function relaxed(start: Float64Array, fixed: number, borders: Borders, spacing: number): Float64Array {
  let delaunay = new Delaunator(start);
  let { places, end } = nearFirst(start, delaunay.triangles, fixed);
  const again = () => {
    if (!keepDelaunay(delaunay, places, [fixed, end])) delaunay = new Delaunator(places);
  };
  for (let round = 0; round < ROUNDS; round++) {
    if (round > 0) again();
    drawToMiddles(places, delaunay.triangles, [fixed, end], borders, spacing, round < ROUNDS - LAST ? FARTHER : 1);
    if (!EVENED.includes(round)) continue;
    again();
    ({ places, end } = evened(places, delaunay.triangles, [fixed, end], borders, spacing));
    delaunay = new Delaunator(places);
  }
  return places;
}

/** The first `fixed` points, then those within some edges of them, which end at `end`, then all others; and so in their triangles. */
function nearFirst(places: Float64Array, triangles: Uint32Array, fixed: number): { places: Float64Array; end: number } {
  const count = places.length / 2;
  const rings = new Uint8Array(count).fill(FITTED + 1);
  rings.fill(0, 0, fixed);
  for (let ring = 1; ring <= FITTED; ring++) {
    for (let i = 0; i < triangles.length; i++) {
      const a = triangles[i]!;
      const b = triangles[i % 3 === 2 ? i - 2 : i + 1]!;
      if (rings[a] === ring - 1 && rings[b]! > ring) rings[b] = ring;
      else if (rings[b] === ring - 1 && rings[a]! > ring) rings[a] = ring;
    }
  }
  const all = new Float64Array(places.length);
  const moved = new Uint32Array(count);
  let at = 0;
  const take = (point: number) => {
    all[at * 2] = places[point * 2]!;
    all[at * 2 + 1] = places[point * 2 + 1]!;
    moved[point] = at++;
  };
  for (let point = 0; point < count; point++) if (rings[point]! <= FITTED) take(point);
  const end = at;
  for (let point = 0; point < count; point++) if (rings[point]! > FITTED) take(point);
  for (let i = 0; i < triangles.length; i++) triangles[i] = moved[triangles[i]!]!;
  return { places: all, end };
}

/** Without one of two points that are too near each other, and with one more in the middle of edges that are too long. */
function evened(
  places: Float64Array,
  triangles: Uint32Array,
  [from, to]: readonly [number, number],
  borders: Borders,
  spacing: number,
): { places: Float64Array; end: number } {
  const left = new Uint8Array(places.length / 2);
  const isDrawn = (point: number) => point >= from && point < to;
  const added: number[] = [];
  for (let i = 0; i < triangles.length; i++) {
    const a = triangles[i]!;
    const b = triangles[i % 3 === 2 ? i - 2 : i + 1]!;
    if ((!isDrawn(a) && !isDrawn(b)) || left[a] || left[b]) continue;
    const du = places[a * 2]! - places[b * 2]!;
    const dv = places[a * 2 + 1]! - places[b * 2 + 1]!;
    const size = Math.sqrt(du * du + dv * dv) / spacing;
    if (size < CROWDED) left[isDrawn(Math.max(a, b)) ? Math.max(a, b) : Math.min(a, b)] = 1;
    else if (size > SPARSE && a < b) {
      const middle: FlatPlace = [places[b * 2]! + du / 2, places[b * 2 + 1]! + dv / 2];
      if (borders.distance(middle) > NEAREST_BORDER * spacing) added.push(...middle);
    }
  }
  const kept = places.subarray(0, to * 2).filter((_, i) => !left[i >> 1]);
  const end = kept.length + added.length;
  const still = places.subarray(to * 2);
  const all = new Float64Array(end + still.length);
  all.set(kept);
  all.set(added, kept.length);
  all.set(still, end);
  return { places: all, end: end / 2 };
}
