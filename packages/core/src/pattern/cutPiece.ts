import { allDirections, NO_LINES } from '../mesh/outline/allDirections';
import { alongGrain } from '../mesh/outline/alongGrain';
import { firstAllDirections } from '../mesh/outline/first/allDirections';
import { distance, type FlatPlace } from '../mesh/outline/path';
import { cosine, sine } from '../math/trigonometry';
import { cutSlits } from './cutSlits';
import { innerLines, placesOnLine, type BorderSpot } from './innerLines';
import type { Folds } from '../mesh/mesh';
import { sampledBorders } from './sampledBorders';
import { loopsOfPiece, sideKey } from './stretches';
import type { Pattern, Piece } from './schema';

/** A piece as it is meshed. */
export interface CutPiece {
  /** u v of each point on the piece, in m; those of its borders first. */
  places: Float64Array;
  /** Along warp and weft, from the corner of the box around it. */
  material: Float64Array;
  /** Three points a triangle, counter-clockwise on the piece. */
  triangles: Uint32Array;
  /** Per loop and side, its first point; the points of a side follow each other. */
  firstOfSide: number[][];
  /** Per loop, how many points its border has, and the first of them. */
  loops: { first: number; count: number }[];
  /** Which edges are folded by lines drawn on it. */
  lineFolds: Folds;
  /** The box around it, along warp and weft, in m. */
  size: FlatPlace;
}

/** Pieces that were cut, by all that decides how, the newest last: moved about in the stage, or brought back by undo, a piece keeps its mesh. */
const known = new Map<string, CutPiece>();
/** So many points of them are remembered. */
const MOST_KNOWN = 1_500_000;

/**
 * Meshes a piece at the spacing, with as many points on each side as the counts say. The grid, and the material coordinates, run along its grain.
 */
export function cutPiece(piece: Piece, pattern: Pattern, counts: ReadonlyMap<string, number>): CutPiece {
  const sides = sidesOfLoops(piece, counts);
  const key = keyOf(piece, pattern, sides);
  const found = known.get(key);
  if (found) return found;
  const cut = mesh(piece, pattern, sides);
  rememberCut(key, cut);
  return cut;
}

/** All that decides how a piece is cut, as text. */
export function cutKey(piece: Piece, pattern: Pattern, counts: ReadonlyMap<string, number>): string {
  return keyOf(piece, pattern, sidesOfLoops(piece, counts));
}

/** Whether a piece has been cut like this already. */
export function isCut(key: string): boolean {
  return known.has(key);
}

/** Takes a piece over that was cut elsewhere, such as in a worker. */
export function rememberCut(key: string, cut: CutPiece): void {
  known.set(key, cut);
  let points = 0;
  for (const { places } of known.values()) points += places.length / 2;
  for (const [oldest, { places }] of known) {
    if (points <= MOST_KNOWN || oldest === key) break;
    known.delete(oldest);
    points -= places.length / 2;
  }
}

function sidesOfLoops(piece: Piece, counts: ReadonlyMap<string, number>): number[][] {
  return loopsOfPiece(piece).map((nodes, loop) => nodes.map((_, side) => counts.get(sideKey(piece.id, loop, side))!));
}

function keyOf(piece: Piece, { spacing, weave, mesher }: Pattern, sides: number[][]): string {
  const loops = loopsOfPiece(piece).map((nodes) => nodes.map(({ at, before, after }) => [at, before, after]));
  const lines = piece.lines.map(({ nodes, kind, fold }) => [
    kind,
    fold,
    nodes.map(({ at, before, after }) => [at, before, after]),
  ]);
  // How far pleats are pressed, and the room in them, changes nothing that is cut.
  const { side, to, kind, count, depth } = piece.pleats ?? {};
  const nodeOf = (node: string | undefined) => piece.outline.findIndex(({ id }) => id === node);
  const pleats = side && [nodeOf(side), nodeOf(to), kind, count, depth];
  return JSON.stringify([spacing, weave, piece.grain, sides, loops, lines, pleats, mesher]);
}

function mesh(piece: Piece, { spacing, weave, mesher }: Pattern, counts: number[][]): CutPiece {
  const [c, s] = [cosine(piece.grain), sine(piece.grain)];
  const turned = ([u, v]: FlatPlace): FlatPlace => [u * c + v * s, v * c - u * s];
  const loops: FlatPlace[][] = [];
  const firstOfSide: number[][] = [];
  const ranges: CutPiece['loops'] = [];
  const lines = innerLines(piece);
  let first = 0;
  for (const sides of sampledBorders(piece, counts, lines)) {
    const places: FlatPlace[] = [];
    firstOfSide.push(
      sides.map((side) => {
        const at = first + places.length;
        places.push(...side);
        return at;
      }),
    );
    loops.push(places.map(turned));
    ranges.push({ first, count: places.length });
    first += places.length;
  }
  const rim = loops.flat();
  /** The point of the border where a line ends. */
  const pointAt = ({ loop, side, share }: BorderSpot, at: FlatPlace): number => {
    const start = firstOfSide[loop]![side]!;
    if (share === 0) return start;
    const own = Array.from({ length: counts[loop]![side]! }, (_, i) => start + i);
    const apart = (point: number) => distance(rim[point]!, at);
    return own.reduce((best, point) => (apart(point) < apart(best) ? point : best));
  };
  const onLines: FlatPlace[] = [];
  const rows = lines.map((line) => {
    const places = placesOnLine(line, spacing).map(turned);
    return places.map((place, i) => {
      const spot = i === 0 ? line.ends[0] : i === places.length - 1 ? line.ends[1] : null;
      return spot ? pointAt(spot, place) : rim.length + onLines.push(place) - 1;
    });
  });
  const fixed = { places: onLines, rows };
  const inAllDirections = mesher === 'first' ? firstAllDirections : allDirections;
  const whole =
    weave === 'along the grain'
      ? alongGrain(loops, spacing, fixed, mesher === 'first' ? NO_LINES : fixed)
      : inAllDirections(loops, spacing, fixed);
  const cut = cutSlits(
    whole,
    rows.filter((_, i) => lines[i]!.slit),
  );
  const low = [Infinity, Infinity];
  const high = [-Infinity, -Infinity];
  cut.places.forEach((value, i) => {
    low[i & 1] = Math.min(low[i & 1]!, value);
    high[i & 1] = Math.max(high[i & 1]!, value);
  });
  const places = new Float64Array(cut.places.length);
  for (let i = 0; i < places.length; i += 2) {
    const [u, v] = [cut.places[i]!, cut.places[i + 1]!];
    places.set([u * c - v * s, v * c + u * s], i);
  }
  return {
    places,
    material: cut.places.map((value, i) => value - low[i & 1]!),
    triangles: cut.triangles,
    firstOfSide,
    loops: ranges,
    lineFolds: foldsOf(rows.map((row, i) => ({ row, fold: lines[i]!.fold }))),
    size: [high[0]! - low[0]!, high[1]! - low[1]!],
  };
}

function foldsOf(lines: readonly { row: readonly number[]; fold: number }[]): Folds {
  const folded = lines.filter(({ fold }) => fold !== 0);
  return {
    edges: Uint32Array.from(folded.flatMap(({ row }) => row.slice(1).flatMap((point, i) => [row[i]!, point]))),
    angles: Float32Array.from(folded.flatMap(({ row, fold }) => row.slice(1).map(() => fold))),
  };
}
