import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../fabric/fabric';
import type { Vector3 } from '../math/vector';
import { place } from '../mesh/place';
import { sheet } from '../mesh/shapes/sheet';
import type { ClothModel, HoldModel } from './model';
import { Solver } from './solver';

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

  it('ends the swing of cloth that hangs, and not the ride of what it hangs from', () => {
    const top = Array.from({ length: 11 }, (_, i) => i);
    const ride = (speed: number): HoldModel => ({
      points: top,
      carried: top,
      placesAt: (time) =>
        Float32Array.from(
          top.flatMap((i) => [
            rest.positions[i * 3]! + speed * time,
            rest.positions[i * 3 + 1]!,
            rest.positions[i * 3 + 2]!,
          ]),
        ),
      strengthsAt: () => new Float32Array(top.length).fill(1),
    });
    /** How the cloth hangs about its pins in the end, x y z in m a point. */
    const hung = (speed: number) => {
      const solver = solverOf({ holds: [ride(speed)] }, [0, -9.81, 0]);
      setVelocities(solver, () => [speed, 0, 0]);
      for (let frame = 0; frame < 48; frame++) solver.advance(FRAME, 40);
      const at = solver.positions(0);
      return at.map((value, i) => value - at[i % 3]!);
    };
    const [still, riding] = [hung(0), hung(5)];
    still.forEach((value, i) => expect(Math.abs(riding[i]! - value)).toBeLessThan(0.004));
  });
});
