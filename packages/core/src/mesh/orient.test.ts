import { describe, expect, it } from 'vitest';
import type { Mesh } from './mesh';
import { orient } from './orient';
import { sheet } from './shapes/sheet';
import { topology } from './topology';
import { signedVolume } from './volume';

/** The same sheet once more at another height, joined to the first along all of its border but one side, both the same way up. */
function pocket(lower: number, upper: number): Mesh {
  const { positions, triangles } = sheet({ width: 0.4, height: 0.4, spacing: 0.1 });
  const count = positions.length / 3;
  const isSewn = (point: number) => Math.abs(positions[point * 3 + 2]!) > 0.199 || positions[point * 3]! < -0.199;
  const at = (height: number) => positions.map((value, i) => (i % 3 === 1 ? height : value));
  return {
    positions: Float32Array.from([...at(lower), ...at(upper)]),
    triangles: Uint32Array.from([...triangles, ...triangles.map((point) => (isSewn(point) ? point : point + count))]),
  };
}

describe('turning faces to one side', () => {
  it.each([
    ['the lower one first', -0.05, 0.05],
    ['the upper one first', 0.05, -0.05],
  ])('makes two equal pieces with a mouth between them look outwards, %s', (_, lower, upper) => {
    const mesh = pocket(lower, upper);
    expect(topology(mesh).flippedEdges).toBeGreaterThan(0);
    const { mesh: turned } = orient(mesh);
    expect(topology(turned).flippedEdges).toBe(0);
    expect(signedVolume(turned)).toBeGreaterThan(0);
  });

  it('keeps the side of the first where both are as many and all of it is flat', () => {
    const corners = [0, 0, 0, 0.3, 0, 0, 0.3, 0.13, 0.37, 0, 0.13, 0.37];
    for (let n = 0; n < 50; n++) {
      const positions = Float32Array.from(corners, (v, i) => v + [0.37 * n, 1, -0.71 * n][i % 3]!);
      const first = [0, 1, 2];
      const { mesh } = orient({ positions, triangles: Uint32Array.from([...first, 0, 3, 2]) });
      expect([...mesh.triangles.subarray(0, 3)]).toEqual(first);
      expect(topology(mesh).flippedEdges).toBe(0);
    }
  });
});
