import { describe, expect, it } from 'vitest';
import type { Mesh } from '../../mesh/mesh';
import { ball } from '../../mesh/shapes/ball';
import { disc } from '../../mesh/shapes/disc';
import { sheet } from '../../mesh/shapes/sheet';
import { topology } from '../../mesh/topology';
import { bendParts } from './bendElements';
import { rigidityToAsk } from './bendRelaxation';

const grid = sheet({ width: 0.2, height: 0.16, spacing: 0.02 });
/** A grid with all diagonals one way, as it may be imported; its columns of two widths, its warp on the bias. */
const oneWay = ((): Mesh => {
  const [columns, lines] = [11, 9];
  const [positions, material, triangles] = [[], [], []] as [number[], number[], number[]];
  for (let line = 0; line < lines; line++) {
    for (let column = 0; column < columns; column++) {
      const [x, y] = [0.02 * column + 0.01 * Math.max(0, column - 5), 0.02 * line];
      positions.push(x, 0, y);
      material.push((x + y) * Math.SQRT1_2, (y - x) * Math.SQRT1_2);
      const a = line * columns + column;
      if (column + 1 === columns || line + 1 === lines) continue;
      triangles.push(a, a + 1, a + columns + 1, a, a + columns + 1, a + columns);
    }
  }
  const [places, flat] = [Float32Array.from(positions), Float32Array.from(material)];
  return { positions: places, material: flat, triangles: Uint32Array.from(triangles) };
})();
const meshes: [string, Mesh][] = [
  ['grid', grid],
  ['grid with all diagonals one way', oneWay],
  ['disc', disc({ radius: 0.1, spacing: 0.02 })],
  ['ball', ball({ radius: 0.1, detail: 2 })],
];

describe('what bends', () => {
  it.each(meshes)('of a %s has all of the stiffness of its inner edges', (_, mesh) => {
    const t = topology(mesh);
    const { flat, folded } = bendParts(mesh);
    const given = new Float64Array(t.edgeCount);
    flat.edges.forEach((edge, i) => {
      if (edge >= 0) given[edge]! += flat.shares[i]!;
    });
    for (const edge of folded) given[edge]! += 1;
    for (let edge = 0; edge < t.edgeCount; edge++) {
      expect(given[edge]).toBeCloseTo(t.edgeFaces[edge * 2 + 1]! < 0 ? 0 : 1, 12);
    }
  });

  it.each(meshes)('of a %s feels no shift and no turn in its plane', (_, mesh) => {
    const { count, points, vectors } = bendParts(mesh).flat;
    const m = mesh.material;
    for (let i = 0; i < count; i++) {
      const sums = [0, 0, 0];
      let size = 0;
      for (let corner = 0; corner < 4; corner++) {
        const [k, point] = [vectors[i * 4 + corner]!, points[i * 4 + corner]!];
        const [u, v] = m ? [m[point * 2]!, m[point * 2 + 1]!] : [0, 0];
        [k, k * u, k * v].forEach((value, at) => (sums[at]! += value));
        size += Math.abs(k);
      }
      for (const sum of sums) expect(Math.abs(sum) / size).toBeLessThan(1e-6);
    }
  });

  it.each([
    ['grid', grid],
    ['grid with all diagonals one way', oneWay],
  ])('of a %s knows what a bent surface makes of it, which cloth that curls goes by', (_, mesh) => {
    const { count, points, vectors, moments } = bendParts(mesh).flat;
    for (let i = 0; i < count; i++) {
      for (const axis of [0, 1]) {
        let moment = 0;
        for (let corner = 0; corner < 4; corner++) {
          moment += (vectors[i * 4 + corner]! * mesh.material![points[i * 4 + corner]! * 2 + axis]! ** 2) / 2;
        }
        expect(moments[i * 2 + axis]).toBeCloseTo(moment, 5);
      }
    }
  });

  it('of a grid measures the rows through every inner point, once each', () => {
    const { count, points, vectors } = bendParts(grid).flat;
    const rows = new Map<number, number>();
    for (let i = 0; i < count; i++) {
      if (vectors[i * 4] !== 0) continue;
      const middle = points[i * 4 + 1]!;
      rows.set(middle, (rows.get(middle) ?? 0) + 1);
    }
    const [columns, lines] = [11, 9];
    for (let line = 1; line < lines - 1; line++) {
      for (let column = 1; column < columns - 1; column++) expect(rows.get(line * columns + column)).toBe(2);
    }
  });

  it('of a grid leaves nothing to make up for, however uneven the fabric', () => {
    const wide = sheet({ width: 0.4, height: 0.4, spacing: 0.02 });
    for (const ratio of [1, 2.8, 9]) {
      const wanted = { warp: ratio, weft: 1, twist: Math.sqrt(ratio) };
      const asked = rigidityToAsk(wide, topology(wide), wanted);
      for (const which of ['warp', 'weft', 'twist'] as const) expect(asked[which]).toBeCloseTo(wanted[which], 4);
    }
  });
});
