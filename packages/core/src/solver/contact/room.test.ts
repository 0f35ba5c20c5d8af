import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import { rotation, type Vector3 } from '../../math/vector';
import { place } from '../../mesh/place';
import { sheet } from '../../mesh/shapes/sheet';
import type { ColliderModel } from '../model';
import { Solver } from '../solver';

const FRAME = 1 / 24;
const CLEARANCE = 0.002;
const THICKNESS = 0.001;
const upright = rotation([0, 0, 0]);
const ground: ColliderModel = {
  ...{ id: 'ground', kind: 'plane', center: [0, 0, 0], rotation: upright },
  ...{ clearance: CLEARANCE, friction: 0.5 },
};
const box = (center: Vector3, size: Vector3, clearance = CLEARANCE): ColliderModel => ({
  ...{ id: 'box', kind: 'box', center, rotation: upright, size, clearance, friction: 0.5 },
});

/** A sheet at so high above a ground, with another collider. */
function lain(height: number, other: ColliderModel, { spacing = 0.02, width = 0.2 } = {}): Solver {
  const rest = place(sheet({ width, height: width, spacing }), { position: [0, height, 0], rotation: [0, 0, 0] });
  const fabric = fabricSchema.parse({ weight: 0.2, thickness: THICKNESS });
  return new Solver({
    cloths: [{ id: 'cloth', rest, positions: rest.positions, fabric, held: [] }],
    colliders: [ground, other],
    air: { gravity: [0, -9.81, 0], density: 0, windAt: () => [0, 0, 0] },
  });
}

function after(solver: Solver, frames: number): number[] {
  for (let frame = 0; frame < frames; frame++) solver.advance(FRAME, 40);
  return [...solver.positions(0)].filter((_, i) => i % 3 === 1);
}

describe('cloth between two colliders', () => {
  it.each([CLEARANCE, 2 * CLEARANCE])(
    'shares room that is less than both ask for, as each asks: %f m from the upper one',
    (clearance) => {
      const room = 0.003;
      const solver = lain(0.0015, box([0, room + 0.05, 0], [0.4, 0.1, 0.4], clearance));
      const [lower, upper] = [CLEARANCE + THICKNESS / 2, clearance + THICKNESS / 2];
      for (const height of after(solver, 8)) expect(height).toBeCloseTo((room * lower) / (lower + upper), 4);
      // There is room enough for its thickness.
      expect(solver.contact().squeezed).toBeNull();
    },
  );

  it('lies in the middle of two that lie in each other, and tells how much room is missing, between which', () => {
    const overlap = 0.004;
    const solver = lain(0.001, box([0, 0.05 - overlap, 0], [0.4, 0.1, 0.4]));
    for (const height of after(solver, 8)) expect(height).toBeCloseTo(-overlap / 2, 4);
    const { squeezed, depths, pierced } = solver.contact();
    expect(squeezed!.missing).toBeCloseTo(overlap + THICKNESS, 5);
    expect(squeezed!.between).toEqual([0, 1]);
    expect(squeezed!.place[1]).toBeCloseTo(-overlap / 2, 4);
    // It cannot keep out of both, so it is not held against it.
    expect(Math.max(...depths.map(({ depth }) => depth))).toBeLessThan(1e-4);
    expect(pierced.map(({ count }) => count)).toEqual([0, 0]);
  });

  it('keeps its full clearance beside them', () => {
    const solver = lain(0.003, box([0, 0.046, 0], [0.08, 0.1, 0.08]), { width: 0.5 });
    const heights = after(solver, 8);
    const far = [...solver.positions(0)].flatMap((x, i, all) =>
      i % 3 === 0 && Math.max(Math.abs(x), Math.abs(all[i + 2]!)) > 0.15 ? [i / 3] : [],
    );
    expect(far.length).toBeGreaterThan(100);
    for (const point of far) expect(heights[point]).toBeGreaterThan(CLEARANCE);
    expect(solver.measure().stretch.largestFree).toBeLessThan(0.03);
  });

  it('is not pressed into the ground by what comes down in the middle of a face', () => {
    // A leg that no cloth point is under: its foot comes down to 4 mm in the ground.
    const leg = box([0.007, 0.056, -0.007], [0.006, 0.1, 0.006]);
    const height = (time: number) => Math.max(0.046, 0.056 - 0.01 * (time / (4 * FRAME)));
    const poseAt = (time: number) => ({ center: [0.007, height(time), -0.007] as Vector3, rotation: upright });
    const solver = lain(0.003, { ...leg, poseAt }, { spacing: 0.02 });
    const lowest = Math.min(...after(solver, 8));
    expect(lowest).toBeGreaterThan(-0.0025);
    expect(solver.contact().squeezed!.missing).toBeCloseTo(0.004 + THICKNESS, 3);
  });

  it('keeps clear of both where they meet in a corner: it is not between them', () => {
    const wall = box([0.15, 0.05, 0], [0.1, 0.2, 0.4]);
    const solver = lain(0.004, wall);
    after(solver, 8);
    const { squeezed, depths } = solver.contact();
    expect(squeezed).toBeNull();
    for (const { depth } of depths) expect(depth).toBeLessThan(-CLEARANCE / 2);
  });

  it('is deep, not squeezed, where it has been pushed into one far from the other', () => {
    const solver = lain(0.03, box([0, 0.05 - 0.004, 0], [0.4, 0.1, 0.4]));
    const { squeezed, depths } = solver.contact();
    expect(squeezed).toBeNull();
    expect(depths[1]!.depth).toBeCloseTo(0.034, 4);
  });
});
