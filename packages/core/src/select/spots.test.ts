import { describe, expect, it } from 'vitest';
import { pointCount } from '../mesh/mesh';
import { sheet } from '../mesh/shapes/sheet';
import { spots } from './spots';

describe('points in even rows', () => {
  const mesh = sheet({ width: 1, height: 0.6, spacing: 0.05 });
  const cut = (point: number) => [mesh.material![point * 2]!, mesh.material![point * 2 + 1]!] as const;

  it('are one for each column and row, half a gap from the sides', () => {
    const found = spots(mesh, 5, 3, 0.001);
    expect(found).toHaveLength(15);
    const us = [...new Set(found.map((point) => Math.round(cut(point)[0] * 1000)))].sort((a, b) => a - b);
    expect(us.map((u) => u - us[0]!)).toEqual([0, 200, 400, 600, 800]);
  });

  it('take all points within the radius, and always the nearest', () => {
    const found = spots(mesh, 2, 1, 0.12);
    for (let point = 0; point < pointCount(mesh); point++) {
      const low = Math.min(...Array.from({ length: pointCount(mesh) }, (_, i) => cut(i)[0]));
      const [u, v] = [cut(point)[0] - low, cut(point)[1]];
      const middle = Math.min(...Array.from({ length: pointCount(mesh) }, (_, i) => cut(i)[1])) + 0.3;
      const away = Math.min(Math.hypot(u - 0.25, v - middle), Math.hypot(u - 0.75, v - middle));
      expect(found.includes(point)).toBe(away <= 0.12);
    }
    expect(spots(mesh, 1, 1, 0)).toHaveLength(1);
  });

  it('are none on a mesh that was not cut flat', () => {
    const { positions, triangles } = mesh;
    expect(spots({ positions, triangles }, 3, 3, 0.1)).toEqual([]);
  });
});
