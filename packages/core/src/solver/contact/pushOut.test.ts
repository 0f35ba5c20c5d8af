import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import { rotation } from '../../math/vector';
import { place } from '../../mesh/place';
import { sheet } from '../../mesh/shapes/sheet';
import type { ColliderModel } from '../model';
import { Solver } from '../solver';

const FRAME = 1 / 24;
const plane: ColliderModel = {
  ...{ id: 'ground', kind: 'plane', center: [0, 0, 0], rotation: rotation([0, 0, 0]) },
  ...{ clearance: 0.002, friction: 0.5 },
};

describe('cloth that starts inside a collider', () => {
  it.each([20, 40, 120])('comes out at half a metre a second, by %i substeps a frame', (substeps) => {
    const rest = place(sheet({ width: 0.3, height: 0.3, spacing: 0.03 }), {
      position: [0, -0.06, 0],
      rotation: [0, 0, 0],
    });
    const solver = new Solver({
      cloths: [{ id: 'cloth', rest, positions: rest.positions, fabric: fabricSchema.parse({ weight: 0.2 }), held: [] }],
      colliders: [plane],
      air: { gravity: [0, 0, 0], density: 0, windAt: () => [0, 0, 0] },
    });
    const heights = () => solver.positions(0).filter((_, i) => i % 3 === 1);
    solver.advance(FRAME, substeps);
    for (const height of heights()) expect(Math.abs(height + 0.06 - 0.5 * FRAME)).toBeLessThan(0.0005);
    for (let frame = 1; frame < 4; frame++) solver.advance(FRAME, substeps);
    // Out, and lying there: what pushed it gave it no speed.
    for (const height of heights()) {
      expect(height).toBeGreaterThan(0.0019);
      expect(height).toBeLessThan(0.004);
    }
  });
});
