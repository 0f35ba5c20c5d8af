import { describe, expect, it } from 'vitest';
import { fabricSchema, type Fabric } from '../fabric/fabric';
import { rotation } from '../math/vector';
import type { Mesh } from '../mesh/mesh';
import { ball } from '../mesh/shapes/ball';
import { sheet } from '../mesh/shapes/sheet';
import { place } from '../mesh/place';
import { topology } from '../mesh/topology';
import { hingeWeights, rigidityOf } from './constraints/hingeWeights';
import type { ColliderModel, Model } from './model';
import { Solver } from './solver';

const FRAME = 1 / 24;

function model(rest: Mesh, fabric: Fabric, held: number[] = [], more: Partial<Model> = {}): Model {
  return {
    cloths: [{ id: 'cloth', rest, positions: rest.positions, fabric, held }],
    colliders: [],
    air: { gravity: [0, -9.81, 0], density: 0, windAt: () => [0, 0, 0] },
    ...more,
  };
}

/** Droop in m of a clamped strip of length L, weight w and rigidity B: B theta'' = -w g (L - s) cos theta, by shooting. */
function elasticaDroop(length: number, weight: number, rigidity: number): number {
  const steps = 2000;
  const ds = length / steps;
  const shoot = (curvature: number) => {
    let [theta, slope, y] = [0, curvature, 0];
    for (let i = 0; i < steps; i++) {
      const s = (i + 0.5) * ds;
      const bend = (at: number) => (-weight * 9.81 * (length - s) * Math.cos(at)) / rigidity;
      const middle = theta + (slope * ds) / 2;
      slope += bend(middle) * ds;
      y += Math.sin(middle) * ds;
      theta = middle + (slope * ds) / 2;
    }
    return { slope, y };
  };
  // At the free end the curvature is zero; here curvature at the clamp is positive downwards.
  let [low, high] = [0, 400];
  for (let i = 0; i < 80; i++) {
    const middle = (low + high) / 2;
    if (shoot(middle).slope > 0) high = middle;
    else low = middle;
  }
  return shoot((low + high) / 2).y;
}

describe('bend', () => {
  // Strip of 5 cm by 2 cm, 0.15 kg/m2, 1e-5 N.m, clamped over two columns of points.
  const droopOf = (spacing: number, substeps: number): number => {
    const rest = sheet({ width: 0.05 + spacing, height: 0.02, spacing });
    const fabric = fabricSchema.parse({
      weight: 0.15,
      bendWarp: 1e-5,
      bendWeft: 1e-5,
      damping: 0.05,
      stretchWarp: 5000,
      stretchWeft: 5000,
    });
    const left = -(0.05 + spacing) / 2;
    const held = [...Array(rest.positions.length / 3).keys()].filter(
      (i) => rest.positions[i * 3]! < left + spacing * 1.01,
    );
    const solver = new Solver(model(rest, fabric, held));
    for (let frame = 0; frame < 40; frame++) {
      solver.advance(FRAME, substeps);
      solver.calm(0.6);
    }
    return -Math.min(...solver.positions(0).filter((_, i) => i % 3 === 1));
  };
  const reference = elasticaDroop(0.05, 0.15, 1e-5);

  it.each([
    [0.01, 60, 0.15],
    [0.005, 250, 0.1],
  ])('a clamped strip droops as the heavy elastica does, at %d m', (spacing, substeps, bar) => {
    expect(Math.abs(droopOf(spacing, substeps) / reference - 1)).toBeLessThan(bar);
  });

  it('a bent surface has the energy of its curvature in every direction, on a grid and on even triangles', () => {
    // Three hinge directions cannot carry a strong difference of warp and weft, so even triangles get an even fabric.
    const meshes: [string, Mesh, number][] = [
      ['grid', sheet({ width: 0.6, height: 0.6, spacing: 0.02 }), 4e-5],
      ['even triangles', evenTriangles(0.6, 0.02), 1e-5],
    ];
    for (const [name, rest, warp] of meshes) {
      const fabric = fabricSchema.parse({ bendWarp: warp, bendWeft: 1e-5 });
      const t = topology(rest);
      const weights = hingeWeights(rest, t, rigidityOf(fabric));
      for (const degrees of [0, 20, 45, 70, 90]) {
        const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
        const curvature = 0.05;
        const energy = hingeEnergy(rest, t, weights, (u, v) => 0.5 * curvature * (u * c + v * s) ** 2);
        const rigidity = warp * c ** 4 + 1e-5 * s ** 4 + 2 * Math.sqrt(warp * 1e-5) * c * c * s * s;
        expect(Math.abs(energy / (0.5 * rigidity * curvature ** 2) - 1), `${name} at ${degrees} degrees`).toBeLessThan(
          0.1,
        );
      }
    }
  });
});

/** A lattice of equilateral triangles. */
function evenTriangles(side: number, spacing: number): Mesh {
  const rowHeight = (spacing * Math.sqrt(3)) / 2;
  const columns = Math.round(side / spacing);
  const rows = Math.round(side / rowHeight);
  const positions: number[] = [];
  const material: number[] = [];
  for (let row = 0; row <= rows; row++) {
    for (let column = 0; column <= columns; column++) {
      const u = column * spacing + (row % 2) * (spacing / 2);
      positions.push(u, 0, row * rowHeight);
      material.push(u, row * rowHeight);
    }
  }
  const triangles: number[] = [];
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const a = row * (columns + 1) + column;
      const [b, c, d] = [a + 1, a + columns + 1, a + columns + 2];
      triangles.push(...(row % 2 === 0 ? [a, c, b, b, c, d] : [a, c, d, a, d, b]));
    }
  }
  return {
    positions: new Float32Array(positions),
    triangles: new Uint32Array(triangles),
    material: new Float32Array(material),
  };
}

/** Energy per area of the hinges in the middle of a mesh that is bent to the height z. */
function hingeEnergy(
  rest: Mesh,
  t: ReturnType<typeof topology>,
  weights: Float64Array,
  z: (u: number, v: number) => number,
): number {
  const m = rest.material!;
  const at = (point: number) => [m[point * 2]! - 0.3, m[point * 2 + 1]! - 0.3] as const;
  let energy = 0;
  let area = 0;
  for (let edge = 0; edge < t.edgeCount; edge++) {
    if (t.edgeFaces[edge * 2 + 1]! < 0) continue;
    const [a, b] = [at(t.edgePoints[edge * 2]!), at(t.edgePoints[edge * 2 + 1]!)];
    const [mu, mv] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    if (Math.abs(mu) > 0.15 || Math.abs(mv) > 0.15) continue;
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    let angle = 0;
    for (const side of [0, 1]) {
      const far = at(t.edgeOpposites[edge * 2 + side]!);
      const [eu, ev] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
      const along = ((far[0] - a[0]) * eu + (far[1] - a[1]) * ev) / length;
      const height = Math.abs((far[0] - a[0]) * ev - (far[1] - a[1]) * eu);
      angle += (z(...far) - (1 - along) * z(...a) - along * z(...b)) / height;
      area += (length * height) / 2 / 3;
    }
    energy += 0.5 * weights[edge]! * angle * angle;
  }
  return energy / area;
}

describe('swing', () => {
  it.each([40, 400])('a short strip swings with the period of a compound pendulum at %d substeps', (substeps) => {
    const size = 0.1;
    const tilt = 0.15;
    const rest = place(sheet({ width: size, height: 0.04, spacing: 0.02 }), {
      position: [0, 0, 0],
      rotation: [0, 0, -Math.PI / 2 + tilt],
    });
    const top = Math.max(...rest.positions.filter((_, i) => i % 3 === 1));
    const held = [...Array(rest.positions.length / 3).keys()].filter((i) => rest.positions[i * 3 + 1]! > top - 1e-5);
    // Stiff and undamped, so that it swings as one piece.
    const fabric = fabricSchema.parse({
      weight: 0.3,
      bendWarp: 0.01,
      bendWeft: 0.01,
      damping: 0,
      stretchWarp: 1e5,
      stretchWeft: 1e5,
      shear: 1e4,
      squeeze: 1,
    });
    const solver = new Solver(model(rest, fabric, held));
    // The hinge row is held as a line, so the strip turns about it freely.
    const pivot = rest.positions[held[0]! * 3]!;
    const far = [...Array(rest.positions.length / 3).keys()].reduce(
      (low, i) => (rest.positions[i * 3 + 1]! < rest.positions[low * 3 + 1]! ? i : low),
      0,
    );
    const crossings: number[] = [];
    let before = solver.positions(0)[far * 3]! - pivot;
    for (let step = 0; step < 24 * 4 && crossings.length < 4; step++) {
      solver.advance(1 / 96, Math.max(1, Math.round(substeps / 4)));
      const now = solver.positions(0)[far * 3]! - pivot;
      if (before * now < 0) crossings.push((step + before / (before - now)) / 96);
      before = now;
    }
    expect(crossings.length).toBeGreaterThanOrEqual(3);
    const period = crossings[2]! - crossings[0]!;
    const reference = 2 * Math.PI * Math.sqrt((2 * size) / (3 * 9.81)) * (1 + tilt ** 2 / 16);
    expect(Math.abs(period / reference - 1)).toBeLessThan(0.03);
  });
});

describe('damping', () => {
  it('never changes the shape at rest', () => {
    const restOf = (damping: number) => {
      const rest = sheet({ width: 0.1, height: 0.04, spacing: 0.01 });
      const fabric = fabricSchema.parse({ weight: 0.15, bendWarp: 3e-5, bendWeft: 3e-5, damping });
      const held = [...Array(rest.positions.length / 3).keys()].filter((i) => rest.positions[i * 3]! < -0.039);
      const solver = new Solver(model(rest, fabric, held));
      for (let frame = 0; frame < 60; frame++) {
        solver.advance(FRAME, 40);
        solver.calm(0.7);
      }
      return Math.min(...solver.positions(0).filter((_, i) => i % 3 === 1));
    };
    const undamped = restOf(0);
    for (const damping of [0.005, 0.1]) expect(Math.abs(restOf(damping) / undamped - 1)).toBeLessThan(0.01);
  });
});

describe('mesh colliders', () => {
  it('a ball of triangles holds cloth as the exact ball does', () => {
    const rest = place(sheet({ width: 0.4, height: 0.4, spacing: 0.02 }), {
      position: [0, 0.26, 0],
      rotation: [0, 0, 0],
    });
    const fabric = fabricSchema.parse({ thickness: 0.001 });
    const placed = { center: [0, 0, 0] as const, rotation: rotation([0, 0, 0]) };
    const base = { id: 'ball', clearance: 0.002, friction: 0.4, ...placed };
    const mesh: ColliderModel = { ...base, kind: 'mesh', mesh: ball({ radius: 0.25, detail: 4 }) };
    const exact: ColliderModel = {
      ...base,
      kind: 'ball',
      radius: 0.25,
    };
    const top = (collider: ColliderModel) => {
      const solver = new Solver(model(rest, fabric, [], { colliders: [collider] }));
      for (let frame = 0; frame < 24; frame++) solver.advance(FRAME, 40);
      const positions = solver.positions(0);
      let nearest = Infinity;
      for (let i = 0; i < positions.length; i += 3)
        nearest = Math.min(nearest, Math.hypot(positions[i]!, positions[i + 1]!, positions[i + 2]!));
      return nearest;
    };
    expect(top(exact)).toBeCloseTo(0.2525, 4);
    expect(top(mesh)).toBeGreaterThan(0.2525 - 0.0012);
    expect(top(mesh)).toBeLessThan(0.2525 + 0.0012);
  });

  it('an open mesh keeps cloth on the side where it is, above or below', () => {
    const wall = place(sheet({ width: 1, height: 1, spacing: 0.1 }), { position: [0, 0, 0], rotation: [0, 0, 0] });
    const fabric = fabricSchema.parse({ thickness: 0.001 });
    for (const side of [1, -1]) {
      const rest = place(sheet({ width: 0.3, height: 0.3, spacing: 0.03 }), {
        position: [0, side * 0.1, 0],
        rotation: [0, 0, 0],
      });
      const placed = { center: [0, 0, 0] as const, rotation: rotation([0, 0, 0]) };
      const collider: ColliderModel = {
        id: 'wall',
        kind: 'mesh',
        mesh: wall,
        clearance: 0.002,
        friction: 0.4,
        ...placed,
      };
      const air = { gravity: [0, -9.81 * side, 0] as const, density: 0, windAt: () => [0, 0, 0] as const };
      const solver = new Solver(model(rest, fabric, [], { colliders: [collider], air }));
      for (let frame = 0; frame < 20; frame++) solver.advance(FRAME, 40);
      const heights = solver.positions(0).filter((_, i) => i % 3 === 1);
      for (const height of heights) expect(height * side).toBeCloseTo(0.0025, 4);
    }
  });
});
