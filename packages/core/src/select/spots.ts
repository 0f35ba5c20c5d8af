import { pointCount, type Mesh } from '../mesh/mesh';

/**
 * Points of a sheet at places in even rows, as eyelets, buttons or the stitches of a quilt are set: columns along its width, rows along its
 * height, half a gap from its sides. Each place takes the points within a radius (m, as cut), and always the nearest one.
 *
 * @returns points in ascending order, each once; none for a mesh that was not cut flat
 */
export function spots(mesh: Mesh, columns: number, rows: number, radius: number): number[] {
  const { material } = mesh;
  if (!material) return [];
  const found = new Set<number>();
  const [low, high] = materialBounds(material);
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const u = low[0] + ((column + 0.5) / columns) * (high[0] - low[0]);
      const v = low[1] + ((row + 0.5) / rows) * (high[1] - low[1]);
      let nearest = -1;
      let least = Infinity;
      for (let point = 0; point < pointCount(mesh); point++) {
        const away = Math.hypot(material[point * 2]! - u, material[point * 2 + 1]! - v);
        if (away <= radius) found.add(point);
        if (away < least) [least, nearest] = [away, point];
      }
      if (nearest >= 0) found.add(nearest);
    }
  }
  return [...found].sort((a, b) => a - b);
}

function materialBounds(material: Float32Array | Float64Array): [[number, number], [number, number]] {
  const low: [number, number] = [Infinity, Infinity];
  const high: [number, number] = [-Infinity, -Infinity];
  for (let i = 0; i < material.length; i++) {
    const axis = (i % 2) as 0 | 1;
    low[axis] = Math.min(low[axis], material[i]!);
    high[axis] = Math.max(high[axis], material[i]!);
  }
  return [low, high];
}
