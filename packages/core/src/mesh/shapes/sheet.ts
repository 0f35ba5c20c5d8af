import type { Mesh } from '../mesh';

export interface SheetOptions {
  /** Along the warp, in metres. */
  width: number;
  /** Along the weft, in metres. */
  height: number;
  /** Wanted distance between neighbouring points in metres. */
  spacing: number;
}

/** Points along both sides of a sheet: its spacing is rounded so that whole cells fill it. */
export function sheetGrid({ width, height, spacing }: SheetOptions): {
  columns: number;
  rows: number;
} {
  return {
    columns: Math.max(1, Math.round(width / spacing)) + 1,
    rows: Math.max(1, Math.round(height / spacing)) + 1,
  };
}

/**
 * A flat rectangle in the x z plane around the origin, facing up. Diagonals alternate from cell to cell: with
 * one direction of diagonal, bending along and across it would differ (see docs/solver.md, bending).
 *
 * @example sheet({ width: 1, height: 0.5, spacing: 0.01 }) // 101 x 51 points
 */
export function sheet(options: SheetOptions): Mesh {
  const { columns, rows } = sheetGrid(options);
  const positions = new Float32Array(columns * rows * 3);
  const material = new Float32Array(columns * rows * 2);
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const point = row * columns + column;
      const u = (options.width * column) / (columns - 1);
      const v = (options.height * row) / (rows - 1);
      positions.set([u - options.width / 2, 0, v - options.height / 2], point * 3);
      material.set([u, v], point * 2);
    }
  }
  const triangles = new Uint32Array((columns - 1) * (rows - 1) * 6);
  let at = 0;
  for (let row = 0; row < rows - 1; row++) {
    for (let column = 0; column < columns - 1; column++) {
      const a = row * columns + column;
      const [b, c, d] = [a + 1, a + columns, a + columns + 1];
      triangles.set((row + column) % 2 === 0 ? [a, c, d, a, d, b] : [a, c, b, b, c, d], at);
      at += 6;
    }
  }
  return { positions, triangles, material };
}
