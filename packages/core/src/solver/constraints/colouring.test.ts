import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import { cone } from '../../mesh/shapes/cone';
import { colour } from './colouring';
import { Solver } from '../solver';

/** Whether no two constraints of one colour share a point. */
function isColoured(points: readonly number[], arity: number, pointCount: number): boolean {
  const { order, starts } = colour(points, arity, pointCount);
  for (let c = 0; c + 1 < starts.length; c++) {
    const met = [...order.subarray(starts[c], starts[c + 1])].flatMap((constraint) =>
      points.slice(constraint * arity, (constraint + 1) * arity),
    );
    if (new Set(met).size < met.length) return false;
  }
  return order.length === points.length / arity;
}

describe('colouring', () => {
  it('gives constraints that share a point different colours, however many meet in one', () => {
    for (const faces of [3, 31, 32, 33, 64, 65, 200]) {
      const fan = Array.from({ length: faces }, (_, i) => [0, i + 1, i + 2]).flat();
      expect(isColoured(fan, 3, faces + 2), `${faces} faces around a point`).toBe(true);
    }
  });

  it('lets a cone of many sides be cloth', () => {
    const rest = cone({ radius: 0.2, topRadius: 0, height: 0.3, segments: 96 });
    const fabric = fabricSchema.parse({ weight: 0.2 });
    const solver = new Solver({
      cloths: [{ id: 'hat', rest, positions: rest.positions, fabric, held: [] }],
      colliders: [],
      air: { gravity: [0, -9.81, 0], density: 0, windAt: () => [0, 0, 0] },
    });
    solver.advance(1 / 24, 20);
    expect(solver.positions(0).every(Number.isFinite)).toBe(true);
  });
});
