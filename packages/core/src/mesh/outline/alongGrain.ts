import { Borders } from './borders';
import { loopsOf, NO_LINES, rowsOf } from './allDirections';
import { edgeKey } from './constrain';
import { gridLines } from './gridLines';
import { flatArray, triangulate } from './triangulate';
import type { FlatPlace } from './path';

/** Points of the grid nearer to a border than this share of the spacing are left out. */
const OFF_BORDER = 0.6;
/** A point of a border that is as near as this to a place of the grid stands for it. */
const SAME = 1e-3;
/** Rounds in which points beside a border go to the middle of their neighbours. */
const ROUNDS = 12;

/**
 * A grid along u and v within borders, its rows fitted to their width and height, and to lines that run along it from border to border; diagonals
 * alternate from cell to cell as on a sheet. Between the grid and the borders triangles are as even as can be.
 *
 * @param loops borders, sampled at the spacing
 * @param spacing in m
 * @param lines within, whose points stay where they are
 * @param fitted those of them that the grid is fitted to
 * @returns u v of all points, those of the borders first, then those of the lines, in order; and the triangles
 */
export function alongGrain(
  loops: readonly (readonly FlatPlace[])[],
  spacing: number,
  lines = NO_LINES,
  fitted = lines,
): { places: Float64Array; triangles: Uint32Array } {
  const rim = [...loops.flat(), ...lines.places];
  const borders = new Borders(loops, spacing, rowsOf(lines, rim));
  const grid = new Grid(
    gridLines(loops, fitted, borders, spacing, 0),
    gridLines(loops, fitted, borders, spacing, 1),
    spacing,
  );
  rim.forEach((place, point) => grid.take(place, point));
  const inner: FlatPlace[] = [];
  for (let row = 0; row < grid.rows; row++) {
    const within = borders.inside(grid.place(0, row)[1]);
    for (let column = 0; column < grid.columns; column++) {
      if (grid.at(column, row) >= 0) continue;
      const place = grid.place(column, row);
      if (!within.some(([from, to]) => place[0] > from && place[0] < to)) continue;
      if (!(borders.distance(place) > OFF_BORDER * spacing)) continue;
      grid.set(column, row, rim.length + inner.length);
      inner.push(place);
    }
  }
  const places = flatArray([...rim, ...inner]);
  const outline = loopsOf(loops);
  let triangles = triangulate(places, outline, lines.rows);
  const loose = grid.besideGaps().filter((point) => point >= rim.length);
  if (loose.length > 0) {
    for (let round = 0; round < ROUNDS; round++) {
      toMiddles(places, triangles, loose);
      if (round % 4 === 3) triangles = triangulate(places, outline, lines.rows);
    }
  }
  return { places, triangles: grid.withDiagonals(triangles, new Set(loose), lines.rows) };
}

/** Which point stands at each place of the grid, -1 for none. */
class Grid {
  readonly columns: number;
  readonly rows: number;
  readonly #u: Float64Array;
  readonly #v: Float64Array;
  readonly #points: Int32Array;
  readonly #spacing: number;

  /** @param u where its columns stand, in order; v: its rows */
  constructor(u: Float64Array, v: Float64Array, spacing: number) {
    [this.columns, this.rows] = [u.length, v.length];
    [this.#u, this.#v] = [u, v];
    this.#points = new Int32Array(this.columns * this.rows).fill(-1);
    this.#spacing = spacing;
  }

  place(column: number, row: number): FlatPlace {
    return [this.#u[column]!, this.#v[row]!];
  }

  at(column: number, row: number): number {
    if (column < 0 || row < 0 || column >= this.columns || row >= this.rows) return -1;
    return this.#points[row * this.columns + column]!;
  }

  set(column: number, row: number, point: number): void {
    this.#points[row * this.columns + column] = point;
  }

  /** A point of a border that lies at a place of the grid stands for it. */
  take(place: FlatPlace, point: number): void {
    const column = nearest(this.#u, place[0]);
    const row = nearest(this.#v, place[1]);
    const [u, v] = this.place(column, row);
    const off = Math.abs(u - place[0]) + Math.abs(v - place[1]);
    if (off < SAME * this.#spacing) this.set(column, row, point);
  }

  /** Points that have not all of their eight neighbours in the grid. */
  besideGaps(): number[] {
    const found: number[] = [];
    for (let row = 0; row < this.rows; row++) {
      for (let column = 0; column < this.columns; column++) {
        const point = this.at(column, row);
        if (point < 0) continue;
        let whole = true;
        for (let i = -1; i <= 1; i++) for (let j = -1; j <= 1; j++) whole &&= this.at(column + i, row + j) >= 0;
        if (!whole) found.push(point);
      }
    }
    return found;
  }

  /**
   * The triangles with those of whole cells in place of what the triangulation chose; cells of points that have moved stay, and those whose diagonal is
   * an edge of a line.
   */
  withDiagonals(triangles: Uint32Array, moved: ReadonlySet<number>, rows: readonly (readonly number[])[]): Uint32Array {
    const fixed = new Set(rows.flatMap((row) => row.slice(1).map((point, i) => edgeKey(row[i]!, point))));
    const cellOf = new Map<number, number[]>();
    const cells: [number, number, number, number][] = [];
    const alternate: boolean[] = [];
    for (let row = 0; row + 1 < this.rows; row++) {
      for (let column = 0; column + 1 < this.columns; column++) {
        const corners: [number, number, number, number] = [
          ...([this.at(column, row), this.at(column + 1, row)] as [number, number]),
          ...([this.at(column, row + 1), this.at(column + 1, row + 1)] as [number, number]),
        ];
        if (corners.some((point) => point < 0 || moved.has(point))) continue;
        const [a, b, c, d] = corners;
        if (fixed.has(edgeKey(a, d)) || fixed.has(edgeKey(b, c))) continue;
        for (const point of corners) cellOf.set(point, [...(cellOf.get(point) ?? []), cells.length]);
        cells.push(corners);
        alternate.push((row + column) % 2 === 0);
      }
    }
    const found = new Uint8Array(cells.length);
    const rest: number[] = [];
    for (let t = 0; t < triangles.length; t += 3) {
      const [a, b, c] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
      const cell = cellOf.get(a)?.find((i) => cells[i]!.includes(b) && cells[i]!.includes(c));
      if (cell === undefined) rest.push(a, b, c);
      else found[cell]!++;
    }
    cells.forEach(([a, b, c, d], i) => {
      if (found[i] !== 2) return;
      rest.push(...(alternate[i] ? [a, b, d, a, d, c] : [a, b, c, b, d, c]));
    });
    return Uint32Array.from(rest);
  }
}

/** Which of some values in order is nearest to one. */
function nearest(values: Float64Array, value: number): number {
  let [from, to] = [0, values.length - 1];
  while (to - from > 1) {
    const middle = (from + to) >> 1;
    if (values[middle]! <= value) from = middle;
    else to = middle;
  }
  return value - values[from]! <= values[to]! - value ? from : to;
}

/** Takes some points to the middle of the triangles around them. */
function toMiddles(places: Float64Array, triangles: Uint32Array, points: readonly number[]): void {
  const sums = new Map(points.map((point) => [point, [0, 0, 0] as [number, number, number]]));
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]! * 2, triangles[t + 1]! * 2, triangles[t + 2]! * 2];
    const own = [0, 1, 2].flatMap((corner) => sums.get(triangles[t + corner]!) ?? []);
    if (own.length === 0) continue;
    const area = Math.abs(
      (places[b]! - places[a]!) * (places[c + 1]! - places[a + 1]!) -
        (places[b + 1]! - places[a + 1]!) * (places[c]! - places[a]!),
    );
    for (let corner = 0; corner < 3; corner++) {
      const sum = sums.get(triangles[t + corner]!);
      if (!sum) continue;
      sum[0] += ((places[a]! + places[b]! + places[c]!) * area) / 3;
      sum[1] += ((places[a + 1]! + places[b + 1]! + places[c + 1]!) * area) / 3;
      sum[2] += area;
    }
  }
  for (const [point, [u, v, weight]] of sums) {
    if (weight > 0) places.set([u / weight, v / weight], point * 2);
  }
}
