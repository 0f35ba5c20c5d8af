import { distance, type FlatPlace } from './path';

/** Cells are counted as if a row had so many. */
const CELLS_A_ROW = 2 ** 24;
/** Of more cells than this it is not kept which are passed. */
const MOST_CELLS = 4_000_000;

/** Borders of a piece as closed polygons, for asking what is inside, and how near. */
export class Borders {
  readonly #loops: readonly (readonly FlatPlace[])[];
  readonly #cell: number;
  /** Edges of the borders by the cell that they pass through. */
  readonly #cells = new Map<number, [FlatPlace, FlatPlace][]>();
  /** Rows of cells, 1 where an edge passes through or beside one; none where there would be too many cells. */
  readonly #passed: Uint8Array;
  readonly #columns: number;
  readonly low: FlatPlace;
  readonly high: FlatPlace;

  /** Whatever is nearer than `reach` m is known exactly; open rows of places within count as borders where it is asked how near they are. */
  constructor(loops: readonly (readonly FlatPlace[])[], reach: number, within: readonly (readonly FlatPlace[])[] = []) {
    this.#loops = loops;
    this.#cell = reach;
    const all = loops.flat();
    this.low = [Math.min(...all.map(([u]) => u)), Math.min(...all.map(([, v]) => v))];
    this.high = [Math.max(...all.map(([u]) => u)), Math.max(...all.map(([, v]) => v))];
    const edges = [
      ...loops.flatMap((loop) => loop.map((a, i) => [a, loop[(i + 1) % loop.length]!] as const)),
      ...within.flatMap((row) => row.slice(1).map((b, i) => [row[i]!, b] as const)),
    ];
    for (const [a, b] of edges) {
      const steps = Math.max(1, Math.ceil((2 * distance(a, b)) / reach));
      const cells = new Set<number>();
      for (let step = 0; step <= steps; step++) {
        const at: FlatPlace = [a[0] + ((b[0] - a[0]) * step) / steps, a[1] + ((b[1] - a[1]) * step) / steps];
        for (let di = -1; di <= 1; di++) for (let dj = -1; dj <= 1; dj++) cells.add(this.#cellOf(at, di, dj));
      }
      for (const cell of cells) {
        const there = this.#cells.get(cell);
        if (there) there.push([a, b]);
        else this.#cells.set(cell, [[a, b]]);
      }
    }
    this.#columns = Math.floor((this.high[0] - this.low[0]) / reach) + 9;
    const rows = Math.floor((this.high[1] - this.low[1]) / reach) + 9;
    this.#passed = new Uint8Array(this.#columns * rows > MOST_CELLS ? 0 : this.#columns * rows);
    for (const cell of this.#cells.keys()) {
      this.#passed[Math.floor(cell / CELLS_A_ROW) * this.#columns + (cell % CELLS_A_ROW)] = 1;
    }
  }

  /** Whether a border may be nearer than `reach`; quicker than to ask how near it is. */
  isNear(u: number, v: number): boolean {
    const i = Math.floor((u - this.low[0]) / this.#cell) + 4;
    const j = Math.floor((v - this.low[1]) / this.#cell) + 4;
    if (i < 0 || i >= this.#columns || j < 0) return true;
    return this.#passed[j * this.#columns + i] !== 0;
  }

  #cellOf([u, v]: FlatPlace, di = 0, dj = 0): number {
    const i = Math.floor((u - this.low[0]) / this.#cell) + di + 4;
    const j = Math.floor((v - this.low[1]) / this.#cell) + dj + 4;
    return j * CELLS_A_ROW + i;
  }

  /** Distance to the nearest border in m; infinite where that is farther than `reach`. */
  distance(place: FlatPlace): number {
    let nearest = Infinity;
    for (const [a, b] of this.#cells.get(this.#cellOf(place)) ?? []) {
      nearest = Math.min(nearest, distanceToEdge(place, a, b));
    }
    return nearest;
  }

  /**
   * Goes along a level from left to right and tells where it is inside: pairs of u between which it is.
   */
  inside(v: number): [number, number][] {
    const at: number[] = [];
    for (const loop of this.#loops) {
      loop.forEach((a, i) => {
        const b = loop[(i + 1) % loop.length]!;
        if (a[1] > v !== b[1] > v) at.push(((b[0] - a[0]) * (v - a[1])) / (b[1] - a[1]) + a[0]);
      });
    }
    at.sort((p, q) => p - q);
    return Array.from({ length: at.length >> 1 }, (_, i) => [at[i * 2]!, at[i * 2 + 1]!]);
  }
}

function distanceToEdge([u, v]: FlatPlace, a: FlatPlace, b: FlatPlace): number {
  const [du, dv] = [b[0] - a[0], b[1] - a[1]];
  const square = du * du + dv * dv;
  const t = square > 0 ? Math.min(1, Math.max(0, ((u - a[0]) * du + (v - a[1]) * dv) / square)) : 0;
  return distance([u, v], [a[0] + t * du, a[1] + t * dv]);
}
