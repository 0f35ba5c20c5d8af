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
    const { positions, triangles } = sheet({ width: 0.4, height: 0.4, spacing: 0.1 });
    const half = triangles.length / 2;
    const mixed = triangles.map((point, i) => (i < half ? point : triangles[i - (i % 3) + [0, 2, 1][i % 3]!]!));
    for (let n = 0; n < 50; n++) {
      // A slope, so that places are rounded.
      const tilted = positions.map((v, i) =>
        i % 3 === 1 ? 1 + 0.371 * positions[i - 1]! - 0.013 * n * positions[i + 1]! : v,
      );
      expect(orient({ positions: tilted, triangles: mixed }).mesh.triangles).toEqual(triangles);
    }
  });
});
