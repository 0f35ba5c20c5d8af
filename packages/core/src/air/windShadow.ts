import { cross, direction, type Vector3 } from '../math/vector';
import { quantity } from '../quantity/quantity';
import { soft } from './airKind';

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

/** Draws what stands in a wind that blows along `along`, a unit vector. */
export function castShadow(casters: readonly Caster[], along: Vector3): WindShadow {
  const side = direction(Math.abs(along[1]) < 0.9 ? cross([0, 1, 0], along) : cross([1, 0, 0], along))!;
  const up = cross(along, side);
  // Written out without arrays: it goes over all points, several times a frame.
  const [low, high] = [
    [Infinity, Infinity],
    [-Infinity, -Infinity],
  ];
  for (const { positions: p } of casters) {
    for (let at = 0; at < p.length; at += 3) {
      const across = p[at]! * side[0] + p[at + 1]! * side[1] + p[at + 2]! * side[2];
      const above = p[at]! * up[0] + p[at + 1]! * up[1] + p[at + 2]! * up[2];
      if (across < low[0]!) low[0] = across;
      if (across > high[0]!) high[0] = across;
      if (above < low[1]!) low[1] = above;
      if (above > high[1]!) high[1] = above;
    }
  }
  const extent = Math.max(high[0]! - low[0]!, high[1]! - low[1]!);
  if (!(extent > 0)) return { shade: () => 0 };
  const cell = Math.max(LEAST_CELL, extent / CELLS);
  const columns = Math.ceil((high[0]! - low[0]!) / cell) + 1;
  const rows = Math.ceil((high[1]! - low[1]!) / cell) + 1;
  const depths = new Float32Array(columns * rows * LAYERS).fill(Infinity);

  const mark = (column: number, row: number, depth: number) => {
    const first = (row * columns + column) * LAYERS;
    let put = depth;
    for (let at = first; at < first + LAYERS && put < Infinity; at++) {
      const other = depths[at]!;
      if (put < other) {
        depths[at] = put;
        put = other;
      }
    }
  };
  for (const { positions, triangles } of casters) {
    const grid = new Float64Array(positions.length);
    for (let at = 0; at < grid.length; at += 3) {
      const [x, y, z] = [positions[at]!, positions[at + 1]!, positions[at + 2]!];
      grid[at] = (x * side[0] + y * side[1] + z * side[2] - low[0]!) / cell;
      grid[at + 1] = (x * up[0] + y * up[1] + z * up[2] - low[1]!) / cell;
      grid[at + 2] = x * along[0] + y * along[1] + z * along[2];
    }
    for (let t = 0; t < triangles.length; t += 3) {
      drawTriangle(grid, triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3, columns, rows, mark);
    }
  }

  const shadeOfCell = (column: number, row: number, depth: number, own: number, reach: number): number => {
    if (column < 0 || row < 0 || column >= columns || row >= rows) return 0;
    const first = (row * columns + column) * LAYERS;
    // The nearest one up the wind counts: those before it are farther away.
    for (let at = first + LAYERS - 1; at >= first; at--) {
      const away = depth - depths[at]!;
      if (away > own) return 1 - soft(away / reach);
    }
    return 0;
  };
  return {
    shade: (px, py, pz, nx, ny, nz, reach) => {
      const x = (px * side[0] + py * side[1] + pz * side[2] - low[0]!) / cell - 0.5;
      const y = (px * up[0] + py * up[1] + pz * up[2] - low[1]!) / cell - 0.5;
      const depth = px * along[0] + py * along[1] + pz * along[2];
      const facing = Math.abs(nx * along[0] + ny * along[1] + nz * along[2]);
      const slant = Math.min(MOST_SLANT, Math.sqrt(Math.max(0, 1 - facing * facing)) / Math.max(1e-3, facing));
      const own = OWN + cell * (1 + slant);
      const column = Math.floor(x),
        row = Math.floor(y);
      const right = x - column,
        above = y - row;
      return (
        (1 - above) *
          ((1 - right) * shadeOfCell(column, row, depth, own, reach) +
            right * shadeOfCell(column + 1, row, depth, own, reach)) +
        above *
          ((1 - right) * shadeOfCell(column, row + 1, depth, own, reach) +
            right * shadeOfCell(column + 1, row + 1, depth, own, reach))
      );
    },
  };
}

/** Marks the cells whose middle a triangle covers; corners are given in cells, and down the wind in m. */
function drawTriangle(
  grid: Float64Array,
  a: number,
  b: number,
  c: number,
  columns: number,
  rows: number,
  mark: (column: number, row: number, depth: number) => void,
): void {
  const ax = grid[a]!,
    ay = grid[a + 1]!,
    bx = grid[b]!,
    by = grid[b + 1]!,
    cx = grid[c]!,
    cy = grid[c + 1]!;
  const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
  if (area === 0) return;
  const firstColumn = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5));
  const lastColumn = Math.min(columns - 1, Math.floor(Math.max(ax, bx, cx) - 0.5));
  const firstRow = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
  const lastRow = Math.min(rows - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
  for (let row = firstRow; row <= lastRow; row++) {
    for (let column = firstColumn; column <= lastColumn; column++) {
      const x = column + 0.5,
        y = row + 0.5;
      const ofB = ((x - ax) * (cy - ay) - (cx - ax) * (y - ay)) / area;
      const ofC = ((bx - ax) * (y - ay) - (x - ax) * (by - ay)) / area;
      if (ofB < 0 || ofC < 0 || ofB + ofC > 1) continue;
      mark(column, row, (1 - ofB - ofC) * grid[a + 2]! + ofB * grid[b + 2]! + ofC * grid[c + 2]!);
    }
  }
}
