import { quantity } from '../quantity/quantity';
import { soft } from './airKind';
import type { WindWay } from './windWay';

// What stands in a wind keeps it off what is behind. Everything is drawn on a grid square to the wind, with how far down the wind it is, as
// a picture is drawn with its depths (Williams 1978 “Casting curved shadows on curved surfaces”); a place is in shadow where
// something in its cell is nearer to where the wind comes from.

/** Numbers of a wind that things keep off. */
export const shadowNumbers = {
  shadow: quantity({
    label: 'Wind shadow',
    help: 'How much of the wind colliders and cloth keep off what is close behind them.',
    unit: '%',
    min: 0,
    max: 1,
    default: 0,
    step: 0.01,
    keyable: true,
    group: 'Wind shadow',
  }),
  shadowReach: quantity({
    label: 'Reach',
    help: 'So far behind a thing the wind is itself again. Ten times its width is natural.',
    unit: 'm',
    min: 0.05,
    max: 100,
    default: 4,
    step: 0.05,
    group: 'Wind shadow',
  }),
};

/** A surface that keeps wind off. */
export interface Caster {
  /** x y z in m. */
  positions: ArrayLike<number>;
  triangles: ArrayLike<number>;
}

/** Cells along the longer side of the grid. */
const CELLS = 256;
/** Cells smaller than this, in m, tell nothing. */
const LEAST_CELL = 0.004;
/** Surfaces one behind the other that a cell remembers, those that the wind meets first. */
const LAYERS = 6;
/** What lies closer than this behind a surface, in m, besides what its slant makes, is that surface itself. */
const OWN = 0.015;
/** A surface along the wind is not its own shadow: its slant counts for at most so many cells. */
const MOST_SLANT = 30;

/** How much of the wind's way to places is barred. */
export interface WindShadow {
  /** How much of the wind is kept off a place x y z in m on a surface with the unit normal nx ny nz, 0 to 1; beyond `reach` m behind what bars it none. */
  shade: (x: number, y: number, z: number, nx: number, ny: number, nz: number, reach: number) => number;
}

/** Draws what stands in a wind of a way. Cells are not smaller than `least` m: finer than the cloth that is asked about tells nothing. */
export function castShadow(casters: readonly Caster[], way: WindWay, least = LEAST_CELL): WindShadow {
  const grids = casters.map(({ positions }) => located(positions, way));
  const [left, right] = range(grids, 0);
  const [low, high] = range(grids, 1);
  const extent = Math.max(right - left, high - low);
  if (!(extent > 0)) return { shade: () => 0 };
  const cell = Math.max(least, LEAST_CELL, extent / CELLS);
  const columns = Math.ceil((right - left) / cell) + 1;
  const rows = Math.ceil((high - low) / cell) + 1;
  const { round } = way;
  // What comes round again is remembered twice: as it lies, and a turn before.
  const layers = round > 0 ? 2 * LAYERS : LAYERS;
  const depths = new Float32Array(columns * rows * layers).fill(Infinity);

  const put = (column: number, row: number, depth: number) => {
    const first = (row * columns + column) * layers;
    let next = depth;
    for (let at = first; at < first + layers && next < Infinity; at++) {
      const other = depths[at]!;
      if (next < other) {
        depths[at] = next;
        next = other;
      }
    }
  };
  const mark = (column: number, row: number, depth: number) => {
    if (round === 0) return put(column, row, depth);
    const within = depth - round * Math.floor(depth / round);
    put(column, row, within);
    put(column, row, within - round);
  };
  casters.forEach(({ triangles }, n) => {
    const grid = grids[n]!;
    for (let at = 0; at < grid.length; at += 3) {
      grid[at] = (grid[at]! - left) / cell;
      grid[at + 1] = (grid[at + 1]! - low) / cell;
    }
    for (let t = 0; t < triangles.length; t += 3) {
      drawTriangle(grid, triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3, columns, rows, round, mark);
    }
  });

  const shadeOfCell = (column: number, row: number, depth: number, own: number, reach: number): number => {
    if (column < 0 || row < 0 || column >= columns || row >= rows) return 0;
    const first = (row * columns + column) * layers;
    // The first of them lies farthest up the way: where that is not before it, none is.
    if (!(depth - depths[first]! > own)) return 0;
    // The nearest one up the way counts: those before it are farther away.
    for (let at = first + layers - 1; at >= first; at--) {
      const away = depth - depths[at]!;
      if (away > own) return 1 - soft(away / reach);
    }
    return 0;
  };
  const place = new Float64Array(3);
  return {
    shade: (px, py, pz, nx, ny, nz, reach) => {
      way.locate(px, py, pz, place);
      const metres = way.metres(place[0]!);
      const depth = round > 0 ? place[2]! - round * Math.floor(place[2]! / round) : place[2]!;
      const facing = way.facing(px, py, pz, nx, ny, nz);
      const slant = Math.min(MOST_SLANT, Math.sqrt(Math.max(0, 1 - facing * facing)) / Math.max(1e-3, facing));
      const own = (OWN + cell * (1 + slant)) / metres;
      const far = reach / metres;
      const x = (place[0]! - left) / cell - 0.5;
      const y = (place[1]! - low) / cell - 0.5;
      const column = Math.floor(x),
        row = Math.floor(y);
      const aside = x - column,
        above = y - row;
      return (
        (1 - above) *
          ((1 - aside) * shadeOfCell(column, row, depth, own, far) +
            aside * shadeOfCell(column + 1, row, depth, own, far)) +
        above *
          ((1 - aside) * shadeOfCell(column, row + 1, depth, own, far) +
            aside * shadeOfCell(column + 1, row + 1, depth, own, far))
      );
    },
  };
}

/** Where places x y z are on a way, three numbers each. */
function located(positions: ArrayLike<number>, way: WindWay): Float64Array {
  const grid = new Float64Array(positions.length);
  const place = new Float64Array(3);
  for (let at = 0; at < grid.length; at += 3) {
    way.locate(positions[at]!, positions[at + 1]!, positions[at + 2]!, place);
    grid.set(place, at);
  }
  return grid;
}

/** The least and the largest of one coordinate. */
function range(grids: readonly Float64Array[], axis: number): [number, number] {
  let [least, most] = [Infinity, -Infinity];
  for (const grid of grids) {
    for (let at = axis; at < grid.length; at += 3) {
      least = Math.min(least, grid[at]!);
      most = Math.max(most, grid[at]!);
    }
  }
  return [least, most];
}

/** Marks the cells whose middle a triangle covers; corners are given in cells, and down the wind in m. */
function drawTriangle(
  grid: Float64Array,
  a: number,
  b: number,
  c: number,
  columns: number,
  rows: number,
  round: number,
  mark: (column: number, row: number, depth: number) => void,
): void {
  const ax = grid[a]!,
    ay = grid[a + 1]!,
    bx = grid[b]!,
    by = grid[b + 1]!,
    cx = grid[c]!,
    cy = grid[c + 1]!;
  const firstColumn = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5));
  const lastColumn = Math.min(columns - 1, Math.floor(Math.max(ax, bx, cx) - 0.5));
  const firstRow = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
  const lastRow = Math.min(rows - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
  // Of fine meshes many triangles cover no middle.
  if (firstColumn > lastColumn || firstRow > lastRow) return;
  const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
  if (area === 0) return;
  const per = 1 / area;
  const depth = grid[a + 2]!;
  const toB = shortWay(grid[b + 2]! - depth, round),
    toC = shortWay(grid[c + 2]! - depth, round);
  for (let row = firstRow; row <= lastRow; row++) {
    const y = row + 0.5 - ay;
    for (let column = firstColumn; column <= lastColumn; column++) {
      const x = column + 0.5 - ax;
      const ofB = (x * (cy - ay) - (cx - ax) * y) * per;
      const ofC = ((bx - ax) * y - x * (by - ay)) * per;
      if (ofB < 0 || ofC < 0 || ofB + ofC > 1) continue;
      mark(column, row, depth + ofB * toB + ofC * toC);
    }
  }
}

/** A way down that comes round again, taken the shorter way. */
function shortWay(down: number, round: number): number {
  return round > 0 ? down - round * Math.round(down / round) : down;
}
