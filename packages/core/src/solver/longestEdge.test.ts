import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../fabric/fabric';
import { closedSeams } from '../mesh/closeSeams';
import { sheet } from '../mesh/shapes/sheet';
import type { Mesh } from '../mesh/mesh';
import { longestPossible } from './longestEdge';

const modelOf = (rest: Mesh, numbers: object = {}) => {
  const fabric = fabricSchema.parse({ weight: 0.2, ...numbers });
  return { model: { id: 'a', rest, positions: rest.positions, fabric, held: [] }, fabric };
};
const longest = (rest: Mesh, numbers: object = {}) => {
  const { model, fabric } = modelOf(rest, numbers);
  return longestPossible(model, fabric);
};

describe('the longest edge of a cloth', () => {
  const square = sheet({ width: 0.2, height: 0.2, spacing: 0.02 });

  it('is the diagonal of a square of the grid, larger where the rest size is', () => {
    expect(longest(square)).toBeCloseTo(0.02 * Math.SQRT2, 6);
    expect(longest(square, { restWarp: 1.5 })).toBeCloseTo(0.03 * Math.SQRT2, 6);
  });

  // Seam points lie in the middle between where their pieces start: edges there counted as long as half of that, and all that is round as sharp.
  it('is as it was cut where seams are closed, however far apart the pieces start', () => {
    const count = square.positions.length / 3;
    const sewn = Uint32Array.from({ length: count * 2 }, (_, i) => i);
    const side = [...Array(11).keys()].map((row) => row * 11);
    for (const point of side) sewn[count + point] = point;
    const apart = square.positions.map((value, i) => (i % 3 === 1 ? value + 0.3 : value));
    const two: Mesh = {
      positions: Float32Array.from([...square.positions, ...apart]),
      triangles: Uint32Array.from([...square.triangles, ...square.triangles.map((point) => point + count)]),
      material: Float32Array.from([...square.material!, ...square.material!.map((u, i) => (i % 2 === 0 ? u + 1 : u))]),
      sewn,
    };
    const { mesh } = closedSeams(two)!;
    expect(mesh.positions.length / 3).toBe(count * 2 - side.length);
    expect(longest(mesh)).toBeCloseTo(0.02 * Math.SQRT2, 6);
  });
});
