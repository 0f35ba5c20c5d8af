import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import type { Vector3 } from '../../math/vector';
import { place } from '../../mesh/place';
import { sheet } from '../../mesh/shapes/sheet';
import type { ClothModel, HoldModel } from '../model';
import { Solver } from '../solver';

const FRAME = 1 / 24;
const fabric = fabricSchema.parse({ weight: 0.2, damping: 0.02 });
const rest = place(sheet({ width: 0.4, height: 0.4, spacing: 0.04 }), { position: [0, 0, 0], rotation: [0, 0, 0] });
const count = rest.positions.length / 3;

function solverOf(cloth: Partial<ClothModel>, gravity: Vector3 = [0, 0, 0]): Solver {
  return new Solver({
    cloths: [{ id: 'cloth', rest, positions: rest.positions, fabric, held: [], ...cloth }],
    colliders: [],
    air: { gravity, density: 0, windAt: () => [0, 0, 0] },
  });
}

/** Gives every point the velocity that a function says, m/s. */
function setVelocities(solver: Solver, of: (x: number, y: number, z: number) => Vector3): void {
  const state = solver.state();
  const size = state.arrays.length / 3;
  for (let i = 0; i < count; i++) {
    const [x, y, z] = state.arrays.subarray(i * 4, i * 4 + 3) as unknown as [number, number, number];
    state.arrays.set(of(x, y, z), 2 * size + i * 4);
  }
  solver.restore({ ...state, speed: 10 });
}

function middle(solver: Solver): Vector3 {
  const at = solver.positions(0);
  return [0, 1, 2].map((axis) => at.reduce((sum, v, i) => sum + (i % 3 === axis ? v : 0), 0) / count) as never;
}

describe('friction between yarns', () => {
  it('takes nothing from cloth that flies along', () => {
    const solver = solverOf({});
    setVelocities(solver, () => [3, 0, 4]);
    for (let frame = 0; frame < 24; frame++) solver.advance(FRAME, 40);
    const [x, , z] = middle(solver);
    expect(x).toBeCloseTo(3, 4);
    expect(z).toBeCloseTo(4, 4);
  });

  it('takes nothing from a fall', () => {
    const solver = solverOf({}, [0, -9.81, 0]);
    solver.advance(0.5, 200);
    expect(middle(solver)[1]).toBeCloseTo(-0.5 * 9.81 * 0.25 * (1 + 1 / 200), 5);
  });

  it('takes nothing from cloth that turns about itself', () => {
    const solver = solverOf({ fabric: { ...fabric, stretchWarp: 1e5, stretchWeft: 1e5, shear: 1e5 } });
    setVelocities(solver, (x, _, z) => [z, 0, -x]);
    for (let frame = 0; frame < 24; frame++) solver.advance(FRAME, 40);
    const at = solver.positions(0);
    // A second at 1 rad/s, seen at a corner.
    const [x, z, restX, restZ] = [at[0]!, at[2]!, rest.positions[0]!, rest.positions[2]!];
    const turned = Math.atan2(restZ * x - restX * z, restX * x + restZ * z);
    expect(Math.abs(turned - 1)).toBeLessThan(0.02);
  });

  it('does not hold cloth back that hangs from what rides along', () => {
    const upright = place(sheet({ width: 0.4, height: 0.4, spacing: 0.04 }), {
      position: [0, 0, 0],
      rotation: [Math.PI / 2, 0, 0],
    });
    const { positions } = upright;
    const top = Math.max(...positions.filter((_, i) => i % 3 === 1));
    const held = [...Array(count).keys()].filter((i) => positions[i * 3 + 1]! > top - 1e-5);
    const ride: HoldModel = {
      points: held,
      carried: held,
      placesAt: (time) =>
        Float32Array.from(
          held.flatMap((i) => [0, 1, 2].map((axis) => positions[i * 3 + axis]! + (axis === 2 ? 4 * time : 0))),
        ),
      strengthsAt: () => new Float32Array(held.length).fill(1),
    };
    const solver = solverOf({ rest: upright, positions, holds: [ride] }, [0, -9.81, 0]);
    setVelocities(solver, () => [0, 0, 4]);
    for (let frame = 0; frame < 48; frame++) solver.advance(FRAME, 40);
    const at = solver.positions(0);
    // Held back by 0.4 m/s^2 it would trail by 16 mm.
    for (let i = 0; i < count; i++) expect(Math.abs(at[i * 3 + 2]! - 8)).toBeLessThan(0.002);
  });

  it('ends the swing of cloth that hangs', () => {
    const held = Array.from({ length: 11 }, (_, i) => i);
    /** The fastest point in m/s after it has fallen from level and swung for 8 s. */
    const swinging = (damping: number) => {
      const solver = solverOf({ held, fabric: { ...fabric, damping } }, [0, -9.81, 0]);
      for (let frame = 0; frame < 24 * 8; frame++) solver.advance(FRAME, 40);
      return solver.measure().fastest;
    };
    expect(swinging(0)).toBeGreaterThan(0.8);
    expect(swinging(0.02)).toBeLessThan(0.25);
  });
});
