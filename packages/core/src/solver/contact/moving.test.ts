import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import { rotation } from '../../math/vector';
import { ball } from '../../mesh/shapes/ball';
import { box } from '../../mesh/shapes/box';
import { capsule } from '../../mesh/shapes/capsule';
import { sheet } from '../../mesh/shapes/sheet';
import { place } from '../../mesh/place';
import type { Mesh } from '../../mesh/mesh';
import type { ClothModel, ColliderModel } from '../model';
import { Solver } from '../solver';

const FRAME = 1 / 24;
const STILL = { gravity: [0, -9.81, 0] as const, density: 0, windAt: () => [0, 0, 0] as const };
const UPRIGHT = rotation([0, 0, 0]);

function cloth(rest: Mesh, more: Partial<ClothModel> = {}): ClothModel {
  return { id: 'cloth', rest, positions: rest.positions, fabric: fabricSchema.parse({}), held: [], ...more };
}

function sheetAt(height: number, width = 0.3): Mesh {
  return place(sheet({ width, height: width, spacing: 0.03 }), { position: [0, height, 0], rotation: [0, 0, 0] });
}

/** A sheet that hangs by its top edge in the plane z = 0. */
function hanging(): ClothModel {
  const rest = place(sheet({ width: 0.6, height: 1, spacing: 0.04 }), {
    position: [0, 0.5, 0],
    rotation: [Math.PI / 2, 0, 0],
  });
  const top = Math.max(...rest.positions.filter((_, i) => i % 3 === 1));
  const held = [...Array(rest.positions.length / 3).keys()].filter((i) => rest.positions[i * 3 + 1]! > top - 1e-6);
  return cloth(rest, { held });
}

describe('a capsule', () => {
  it('holds cloth as the same capsule of triangles does', () => {
    const shape = { radius: 0.1, height: 0.4 };
    const lie = rotation([0, 0, Math.PI / 2]);
    const common = { id: 'bar', center: [0, 0.2, 0] as const, rotation: lie, clearance: 0.003, friction: 0.6 };
    const drape = (collider: ColliderModel) => {
      const solver = new Solver({ cloths: [cloth(sheetAt(0.32, 0.5))], colliders: [collider], air: STILL });
      for (let frame = 0; frame < 24; frame++) {
        solver.advance(FRAME, 40);
        expect(solver.contact().depths[0]!.depth).toBeLessThan(1e-5);
      }
      return solver.positions(0);
    };
    const exact = drape({ ...common, kind: 'capsule', ...shape });
    const meshed = drape({ ...common, kind: 'mesh', mesh: capsule({ ...shape, segments: 96 }) });
    // Over the middle of the bar, and half-way down beside it.
    for (const point of [60, 63, 93]) {
      expect(Math.abs(exact[point * 3 + 1]! - meshed[point * 3 + 1]!)).toBeLessThan(0.012);
    }
    const highest = (positions: Float32Array) => Math.max(...positions.filter((_, i) => i % 3 === 1));
    expect(Math.abs(highest(exact) - highest(meshed))).toBeLessThan(0.002);
  });
});

describe('bounce', () => {
  it.each([0, 0.5, 0.9])('of %s throws a sheet back to its square of the height', (bounce) => {
    const ground: ColliderModel = {
      ...{ id: 'ground', kind: 'plane', center: [0, 0, 0], rotation: UPRIGHT, clearance: 0.003, friction: 0.3 },
      bounce,
    };
    // Without damping, as one flat piece: all of it hits at once.
    const fabric = fabricSchema.parse({ damping: 0 });
    const solver = new Solver({ cloths: [cloth(sheetAt(0.5), { fabric })], colliders: [ground], air: STILL });
    let [fallen, highest] = [false, 0];
    for (let frame = 0; frame < 84; frame++) {
      solver.advance(1 / 120, 20);
      const middle = solver.positions(0)[60 * 3 + 1]!;
      if (middle < 0.01) fallen = true;
      else if (fallen) highest = Math.max(highest, middle);
    }
    expect(fallen).toBe(true);
    expect(Math.abs(highest - bounce * bounce * 0.497)).toBeLessThan(0.03);
  });

  it('lets cloth lie still in the end', () => {
    const ground: ColliderModel = {
      ...{ id: 'ground', kind: 'plane', center: [0, 0, 0], rotation: UPRIGHT, clearance: 0.003, friction: 0.3 },
      bounce: 0.3,
    };
    const solver = new Solver({ cloths: [cloth(sheetAt(0.1))], colliders: [ground], air: STILL });
    for (let frame = 0; frame < 72; frame++) solver.advance(FRAME, 20);
    expect(solver.measure().fastest).toBeLessThan(0.002);
  });
});

describe('a mesh that moves or changes its shape', () => {
  const small = ball({ radius: 0.1, detail: 2 });
  const at = (distance: number) => small.positions.map((value, i) => (i % 3 === 2 ? value + distance : value));

  it('at 10 m/s does not pass a hanging cloth', () => {
    const pointsAt = (time: number) => at(Math.min(10 * time, 0.9));
    const thing: ColliderModel = {
      ...{ id: 'thing', kind: 'mesh', mesh: small, center: [0, 0.5, -0.6], rotation: UPRIGHT },
      ...{ clearance: 0.003, friction: 0.3, pointsAt },
    };
    const solver = new Solver({ cloths: [hanging()], colliders: [thing], air: STILL });
    let ahead = 0;
    for (let frame = 0; frame < 6; frame++) {
      solver.advance(FRAME, 40);
      expect(solver.contact().depths[0]!.depth).toBeLessThan(1e-4);
      ahead = Math.max(ahead, ...solver.positions(0).filter((_, i) => i % 3 === 2));
    }
    expect(ahead).toBeGreaterThan(0.35);
  });

  it('nor does an open plate, where both sides count', () => {
    const plate = place(sheet({ width: 0.3, height: 0.3, spacing: 0.1 }), {
      position: [0, 0, 0],
      rotation: [Math.PI / 2, 0, 0],
    });
    const poseAt = (time: number) => ({
      center: [0, 0.5, -0.35 + Math.min(10 * time, 0.9)] as const,
      rotation: UPRIGHT,
    });
    const thing: ColliderModel = {
      ...{ id: 'plate', kind: 'mesh', mesh: plate, ...poseAt(0), clearance: 0.003, friction: 0.3 },
      poseAt,
    };
    const hung = hanging();
    const solver = new Solver({ cloths: [hung], colliders: [thing], air: STILL });
    // The middle of what it meets; farther out the cloth wraps around its rim.
    const met = [...Array(hung.positions.length / 3).keys()].filter(
      (i) => Math.abs(hung.positions[i * 3]!) < 0.1 && Math.abs(hung.positions[i * 3 + 1]! - 0.5) < 0.1,
    );
    expect(met.length).toBeGreaterThan(15);
    for (let step = 1; step <= 12; step++) {
      solver.advance(1 / 192, 10);
      const positions = solver.positions(0);
      for (const i of met) expect(positions[i * 3 + 2]).toBeGreaterThan(poseAt(step / 192).center[2]);
    }
  });

  it('moving as a whole carries and holds cloth as one that is moved does', () => {
    const block = box({ size: [0.4, 0.1, 0.4] });
    const path = (time: number) => 0.5 * time * time;
    const common = {
      id: 'block',
      kind: 'mesh',
      mesh: block,
      rotation: UPRIGHT,
      clearance: 0.003,
      friction: 0.6,
    } as const;
    const moved: ColliderModel = {
      ...{ ...common, center: [0, 0, 0] },
      poseAt: (time) => ({ center: [path(time), 0, 0], rotation: UPRIGHT }),
    };
    const deformed: ColliderModel = {
      ...{ ...common, center: [0, 0, 0] },
      pointsAt: (time) => block.positions.map((value, i) => (i % 3 === 0 ? value + path(time) : value)),
    };
    const means = [moved, deformed].map((collider) => {
      const solver = new Solver({ cloths: [cloth(sheetAt(0.0535, 0.2))], colliders: [collider], air: STILL });
      for (let frame = 0; frame < 24; frame++) solver.advance(FRAME, 40);
      const positions = solver.positions(0);
      return positions.reduce((sum, x, i) => (i % 3 === 0 ? sum + x : sum), 0) / (positions.length / 3);
    });
    expect(means[0]).toBeGreaterThan(0.48);
    expect(Math.abs(means[1]! - means[0]!)).toBeLessThan(0.005);
  });

  it('goes on from a saved state bit for bit', () => {
    const thing: ColliderModel = {
      ...{ id: 'thing', kind: 'mesh', mesh: small, center: [0, 0.5, -0.3], rotation: UPRIGHT },
      ...{ clearance: 0.003, friction: 0.3, pointsAt: (time: number) => at(time * 2) },
    };
    const make = () => new Solver({ cloths: [hanging()], colliders: [thing], air: STILL });
    const whole = make();
    for (let frame = 0; frame < 3; frame++) whole.advance(FRAME, 20);
    const state = structuredClone(whole.state());
    for (let frame = 0; frame < 3; frame++) whole.advance(FRAME, 20);
    const later = make();
    later.restore(state);
    for (let frame = 0; frame < 3; frame++) later.advance(FRAME, 20);
    expect(later.positions(0)).toEqual(whole.positions(0));
  });
});

describe('keyed numbers', () => {
  it('a rest size that shrinks draws a hung strip up by as much', () => {
    const rest = place(sheet({ width: 0.3, height: 0.06, spacing: 0.02 }), {
      position: [0, 0, 0],
      rotation: [0, 0, -Math.PI / 2],
    });
    const top = Math.max(...rest.positions.filter((_, i) => i % 3 === 1));
    const held = [...Array(rest.positions.length / 3).keys()].filter((i) => rest.positions[i * 3 + 1]! > top - 1e-6);
    const fabric = fabricSchema.parse({});
    const fabricAt = (time: number) => ({ ...fabric, restWarp: Math.max(0.8, 1 - time) });
    const solver = new Solver({
      cloths: [cloth(rest, { fabric, fabricAt, loosest: fabric, held })],
      colliders: [],
      air: STILL,
    });
    for (let frame = 0; frame < 24; frame++) {
      solver.advance(FRAME, 60);
      solver.calm(0.8);
    }
    const low = Math.min(...solver.positions(0).filter((_, i) => i % 3 === 1));
    expect(top - low).toBeCloseTo(0.3 * 0.8, 2);
  });

  it('gravity that is keyed to nothing lets cloth fly on', () => {
    const air = { ...STILL, gravityAt: (time: number) => [0, time < 0.5 ? -9.81 : 0, 0] as const };
    const solver = new Solver({
      cloths: [cloth(sheetAt(0), { fabric: fabricSchema.parse({ damping: 0 }) })],
      colliders: [],
      air,
    });
    solver.advance(0.5, 200);
    const speed = () => solver.measure().fastest;
    solver.advance(0.25, 100);
    const first = speed();
    solver.advance(0.25, 100);
    expect(speed()).toBeCloseTo(first, 3);
    expect(first).toBeCloseTo(9.81 * 0.5, 1);
  });

  it('a clearance that grows lifts what lies on it', () => {
    const ground: ColliderModel = {
      ...{ id: 'ground', kind: 'plane', center: [0, 0, 0], rotation: UPRIGHT, clearance: 0.003, friction: 0.3 },
      touchAt: (time) => ({ clearance: 0.003 + Math.min(0.02, time * 0.02), friction: 0.3 }),
    };
    const solver = new Solver({ cloths: [cloth(sheetAt(0.0035))], colliders: [ground], air: STILL });
    for (let frame = 0; frame < 36; frame++) solver.advance(FRAME, 20);
    const low = Math.min(...solver.positions(0).filter((_, i) => i % 3 === 1));
    expect(low).toBeCloseTo(0.0232, 4);
  });
});
