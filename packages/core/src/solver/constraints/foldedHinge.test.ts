import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import type { Mesh } from '../../mesh/mesh';
import { Solver } from '../solver';

/** Two faces that stand at a right angle to each other along an edge of 10 cm. */
const folded: Mesh = {
  positions: Float32Array.of(-0.05, 0, 0, 0.05, 0, 0, 0, 0, 0.05, 0, 0.05, 0),
  triangles: Uint32Array.of(0, 2, 1, 0, 1, 3),
};

/** How far the angle is off a right one, in radians, frame by frame, after the faces were thrown open at 2 rad/s. */
function swing(damping: number, substeps: number): number[] {
  const fabric = fabricSchema.parse({ weight: 0.2, bendWarp: 2e-5, bendWeft: 2e-5, damping });
  const solver = new Solver({
    cloths: [{ id: 'cloth', rest: folded, positions: folded.positions, fabric, held: [] }],
    colliders: [],
    air: { gravity: [0, 0, 0], density: 0, windAt: () => [0, 0, 0] },
    layers: 'off',
  });
  const state = solver.state();
  const size = state.arrays.length / 3;
  state.arrays.set([0, -0.1, 0], 2 * size + 2 * 4);
  state.arrays.set([0, 0, -0.1], 2 * size + 3 * 4);
  solver.restore({ ...state, speed: 1 });
  return Array.from({ length: 24 }, () => {
    solver.advance(1 / 24, substeps);
    const p = solver.positions(0);
    const across = (far: number) => {
      const v = [0, 1, 2].map((axis) => p[far * 3 + axis]! - (p[axis]! + p[3 + axis]!) / 2);
      const along = [0, 1, 2].map((axis) => p[3 + axis]! - p[axis]!);
      const share = v.reduce((s, x, i) => s + x * along[i]!, 0) / along.reduce((s, x) => s + x * x, 0);
      return v.map((x, i) => x - share * along[i]!);
    };
    const [a, b] = [across(2), across(3)];
    const [ab, aa, bb] = [
      [a, b],
      [a, a],
      [b, b],
    ].map(([u, v]) => u!.reduce((s, x, i) => s + x * v![i]!, 0)) as [number, number, number];
    return Math.acos(ab / Math.sqrt(aa * bb)) - Math.PI / 2;
  });
}

const largest = (values: number[]) => Math.max(...values.map(Math.abs));

describe('a hinge that is folded at rest', () => {
  it('swings on undamped, and comes to rest where the fabric damps, alike at any number of substeps', () => {
    const free = swing(0, 80);
    expect(largest(free.slice(-6))).toBeGreaterThan(0.7 * largest(free.slice(0, 6)));
    const [coarse, fine] = [swing(0.02, 40), swing(0.02, 160)];
    expect(largest(fine.slice(-6))).toBeLessThan(0.1 * largest(free));
    expect(Math.abs(largest(coarse) - largest(fine))).toBeLessThan(0.1 * largest(fine));
  });
});
