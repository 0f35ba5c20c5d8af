import { describe, expect, it } from 'vitest';
import { fabricSchema, type Fabric } from '../fabric/fabric';
import { rotation, type Vector3 } from '../math/vector';
import { ball } from '../mesh/shapes/ball';
import { sheet } from '../mesh/shapes/sheet';
import { place } from '../mesh/place';
import type { ClothModel, ColliderModel, Model } from './model';
import { Solver } from './solver';

const FRAME = 1 / 24;
const GRAVITY: Vector3 = [0, -9.81, 0];

function fabric(numbers: Partial<Fabric> = {}): Fabric {
  return fabricSchema.parse({ ...numbers });
}

function model(cloth: Partial<ClothModel> & Pick<ClothModel, 'rest' | 'fabric'>, more: Partial<Model> = {}): Model {
  return {
    cloths: [{ id: 'cloth', positions: cloth.rest.positions, held: [], ...cloth }],
    colliders: [],
    air: { gravity: GRAVITY, density: 0, windAt: () => [0, 0, 0] },
    ...more,
  };
}

const ground: ColliderModel = {
  id: 'ground',
  kind: 'plane',
  center: [0, 0, 0],
  rotation: rotation([0, 0, 0]),
  clearance: 0.001,
  friction: 0.5,
};

describe('free motion', () => {
  it('falls as gravity says', () => {
    // Without damping, which would slow it a little.
    const free = { rest: sheet({ width: 0.2, height: 0.2, spacing: 0.05 }), fabric: fabric({ damping: 0 }) };
    const solver = new Solver(model(free));
    solver.advance(0.5, 200);
    // Stepping with the velocity at the end of each of n substeps falls 1/n farther than g t^2 / 2.
    expect(solver.positions(0)[1]).toBeCloseTo(-0.5 * 9.81 * 0.25 * (1 + 1 / 200), 5);
    expect(solver.measure().fastest).toBeCloseTo((9.81 * 0.5 * (1 + 1 / 200)) / 2, 4);
  });

  it('falls through still air at the terminal speed of the drag law', () => {
    const cloth = fabric({ weight: 0.1, airAcross: 1.2 });
    const solver = new Solver(
      model(
        { rest: sheet({ width: 0.3, height: 0.3, spacing: 0.05 }), fabric: cloth },
        { air: { gravity: GRAVITY, density: 1.2, windAt: () => [0, 0, 0] } },
      ),
    );
    for (let frame = 0; frame < 48; frame++) solver.advance(FRAME, 40);
    const terminal = Math.sqrt((2 * 0.1 * 9.81) / (1.2 * 1.2));
    expect(Math.abs(solver.measure().fastest / terminal - 1)).toBeLessThan(0.02);
  });
});

describe('membrane', () => {
  it('stretches a loaded strip by F L / (k w)', () => {
    // A strip hung by its top, loaded by its own weight: the mean stretch is rho g L / (2 k).
    const rest = place(sheet({ width: 0.3, height: 0.05, spacing: 0.01 }), {
      position: [0, 0, 0],
      rotation: [0, 0, -Math.PI / 2],
    });
    const cloth = fabric({ weight: 0.5, stretchWarp: 12, squeeze: 1, bendWarp: 0, bendWeft: 0, shear: 5 });
    const top = Math.max(...rest.positions.filter((_, i) => i % 3 === 1));
    const held = [...Array(rest.positions.length / 3).keys()].filter((i) => rest.positions[i * 3 + 1]! > top - 1e-6);
    const solver = new Solver(model({ rest, fabric: cloth, held }));
    for (let frame = 0; frame < 100; frame++) {
      solver.advance(FRAME, 120);
      solver.calm(0.7);
    }
    const low = (positions: Float32Array) => Math.min(...positions.filter((_, i) => i % 3 === 1));
    const stretched = (low(rest.positions) - low(solver.positions(0))) / 0.3;
    const expected = (0.5 * 9.81 * 0.3) / (2 * 12);
    expect(solver.measure().fastest).toBeLessThan(0.01);
    expect(Math.abs(stretched / expected - 1)).toBeLessThan(0.02);
  });
});

describe('pressure', () => {
  it('swells a ball until its tension carries it: each direction by P R / (2 k)', () => {
    const rest = ball({ radius: 0.1, detail: 3 });
    const stiffness = 100;
    const pressure = 80;
    const numbers = { weight: 0.2, stretchWarp: stiffness, stretchWeft: stiffness, shear: stiffness / 2, squeeze: 1 };
    const cloth = fabric({ ...numbers, pressure, damping: 0.01, bendWarp: 1e-6, bendWeft: 1e-6 });
    const still = { gravity: [0, 0, 0] as const, density: 0, windAt: () => [0, 0, 0] as const };
    const solver = new Solver(model({ rest, fabric: cloth }, { air: still }));
    for (let frame = 0; frame < 30; frame++) {
      solver.advance(FRAME, 300);
      solver.calm(0.6);
    }
    const at = solver.positions(0);
    let mean = 0;
    for (let i = 0; i < at.length; i += 3) mean += Math.hypot(at[i]!, at[i + 1]!, at[i + 2]!) / (at.length / 3);
    // The radius is in the formula too: r = R (1 + P r / 2k).
    const expected = 0.1 / (1 - (pressure * 0.1) / (2 * stiffness));
    expect(Math.abs((mean - 0.1) / (expected - 0.1) - 1)).toBeLessThan(0.05);
  });
});

describe('contact', () => {
  const fabricOnSlope = fabric({ friction: 0.5, weight: 0.3, airAcross: 0, airAlong: 0 });
  const slideOn = (degrees: number): number => {
    const angle = (degrees * Math.PI) / 180;
    const slope: ColliderModel = { ...ground, rotation: rotation([0, 0, -angle]) };
    const rest = place(sheet({ width: 0.2, height: 0.2, spacing: 0.02 }), {
      position: [0, 0.00119 / Math.cos(angle), 0],
      rotation: [0, 0, -angle],
    });
    const solver = new Solver(model({ rest, fabric: fabricOnSlope }, { colliders: [slope] }));
    for (let frame = 0; frame < 24; frame++) solver.advance(FRAME, 40);
    const moved = solver.positions(0);
    return Math.hypot(moved[0]! - rest.positions[0]!, moved[1]! - rest.positions[1]!);
  };
  const limit = (Math.atan(0.5) * 180) / Math.PI;

  it('holds on a slope one degree below the angle of friction and slides one degree above', () => {
    expect(slideOn(limit - 1)).toBeLessThan(0.0005);
    expect(slideOn(limit + 1)).toBeGreaterThan(0.05);
  });

  const things: [string, ColliderModel][] = [
    ['ground', ground],
    ['ball', { ...ground, kind: 'ball', radius: 0.2, center: [0, -0.1, 0] }],
    ['box', { ...ground, kind: 'box', size: [0.3, 0.2, 0.25], rotation: rotation([0, 0.4, 0.2]) }],
    ['cylinder', { ...ground, kind: 'cylinder', radius: 0.15, height: 0.3, rotation: rotation([0.3, 0, 0]) }],
  ];
  it.each(things)('keeps every point at its clearance from a %s', (_, thing) => {
    const rest = place(sheet({ width: 0.6, height: 0.6, spacing: 0.02 }), {
      position: [0, 0.3, 0],
      rotation: [0, 0, 0],
    });
    const cloth = fabric({ thickness: 0.002 });
    const solver = new Solver(
      model({ rest, fabric: cloth }, { colliders: [thing, { ...ground, center: [0, -0.4, 0] }] }),
    );
    for (let frame = 0; frame < 36; frame++) solver.advance(FRAME, 30);
    expect(solver.measure().contacts).toBeGreaterThan(50);
    const low = Math.min(...solver.positions(0).filter((_, i) => i % 3 === 1));
    expect(low).toBeGreaterThan(-0.4 + 0.002 - 1e-5);
    expect(solver.measure().stretch.largest).toBeLessThan(0.1);
  });
});

describe('state', () => {
  it('goes on from a saved state, bit for bit', () => {
    const make = () =>
      new Solver(
        model(
          {
            rest: place(sheet({ width: 0.4, height: 0.4, spacing: 0.02 }), {
              position: [0, 0.1, 0],
              rotation: [0.2, 0, 0],
            }),
            fabric: fabric(),
          },
          { colliders: [ground] },
        ),
      );
    const first = make();
    for (let frame = 0; frame < 6; frame++) first.advance(FRAME, 20);
    const saved = first.state();
    const second = make();
    second.advance(FRAME, 20);
    second.restore(saved);
    first.restore(saved);
    for (let frame = 0; frame < 6; frame++) {
      first.advance(FRAME, 20);
      second.advance(FRAME, 20);
    }
    expect(second.positions(0)).toEqual(first.positions(0));
  });

  it('refuses a state of other cloth', () => {
    const small = new Solver(model({ rest: sheet({ width: 0.1, height: 0.1, spacing: 0.05 }), fabric: fabric() }));
    const other = new Solver(model({ rest: sheet({ width: 0.2, height: 0.1, spacing: 0.05 }), fabric: fabric() }));
    expect(() => small.restore(other.state())).toThrow(RangeError);
  });
});
