import { describe, expect, it } from 'vitest';
import { fabricSchema, type Fabric } from '../../fabric/fabric';
import { pointCount, type Mesh } from '../../mesh/mesh';
import { allDirections } from '../../mesh/outline/allDirections';
import { sheet } from '../../mesh/shapes/sheet';
import type { ClothModel } from '../model';
import { Solver, type SolverState } from '../solver';
import { flatTriangles } from './flatTriangles';

// Strips without weight in still air: what they do, they do of themselves.

type Numbers = Partial<Fabric>;

function strip(along: 'warp' | 'weft', width = 0.03): Mesh {
  return sheet(
    along === 'warp' ? { width: 0.24, height: width, spacing: 0.006 } : { width, height: 0.24, spacing: 0.006 },
  );
}

/** A strip along the warp, its triangles in all directions, facing up. */
function unevenStrip(): Mesh {
  const [length, width, spacing] = [0.24, 0.03, 0.006];
  const rim: [number, number][] = [];
  for (let u = 0; u < length - 1e-9; u += spacing) rim.push([u, 0]);
  for (let v = 0; v < width - 1e-9; v += spacing) rim.push([length, v]);
  for (let u = length; u > 1e-9; u -= spacing) rim.push([u, width]);
  for (let v = width; v > 1e-9; v -= spacing) rim.push([0, v]);
  const { places, triangles } = allDirections([rim], spacing);
  const positions = new Float32Array((places.length / 2) * 3);
  for (let i = 0; i < places.length / 2; i++) positions.set([places[i * 2]!, 0, -places[i * 2 + 1]!], i * 3);
  return { positions, triangles, material: Float32Array.from(places) };
}

function solverOf(rest: Mesh, numbers: Numbers, more: Partial<ClothModel> = {}): Solver {
  const fabric = fabricSchema.parse({ weight: 0.2, bendWarp: 3e-5, bendWeft: 3e-5, damping: 0.05, ...numbers });
  return new Solver({
    cloths: [{ id: 'strip', rest, positions: rest.positions, fabric, held: [], ...more }],
    colliders: [],
    air: { gravity: [0, 0, 0], density: 0, windAt: () => [0, 0, 0] },
    layers: 'off',
  });
}

function run(solver: Solver, frames: number): Float32Array {
  for (let frame = 0; frame < frames; frame++) solver.advance(1 / 24, 60);
  return solver.positions(0);
}

/** How a strip is bent between two places along it, in 1/m, from three points of its middle; above 0 where it rises to its face. */
function curvature(rest: Mesh, positions: Float32Array, along: 0 | 1, from: number, to: number): number {
  const uv = rest.material!;
  const across = [...uv].filter((_, i) => i % 2 !== along);
  const middle = (Math.min(...across) + Math.max(...across)) / 2;
  const nearest = (place: number) => {
    let [best, found] = [Infinity, 0];
    for (let i = 0; i < uv.length / 2; i++) {
      const off = Math.hypot(uv[i * 2 + along]! - place, uv[i * 2 + 1 - along]! - middle);
      if (off < best) [best, found] = [off, i];
    }
    return [0, 1, 2].map((axis) => positions[found * 3 + axis]!);
  };
  const [a, b, c] = [nearest(from), nearest((from + to) / 2), nearest(to)] as [number[], number[], number[]];
  const [x, y, z] = [away(a, b), away(b, c), away(a, c)];
  const half = (x + y + z) / 2;
  const area = Math.sqrt(Math.max(0, half * (half - x) * (half - y) * (half - z)));
  const rise = (a[1]! + c[1]!) / 2 - b[1]!;
  return (Math.sign(rise) * 4 * area) / (x * y * z);
}

const away = (a: number[], b: number[]) => Math.hypot(...a.map((value, axis) => value - b[axis]!));

describe('a fabric that curls', () => {
  it.each([
    ['warp', 12],
    ['warp', -12],
    ['weft', 12],
  ] as const)(
    'lies in the circle of its curl along the %s, %d to the metre, on the side that its sign says',
    (along, curl) => {
      const rest = strip(along);
      const numbers = along === 'warp' ? { curlWarp: curl } : { curlWeft: curl };
      const positions = run(solverOf(rest, numbers), 60);
      for (const [from, to] of [
        [0.03, 0.13],
        [0.08, 0.16],
        [0.11, 0.21],
      ] as const) {
        const found = curvature(rest, positions, along === 'warp' ? 0 : 1, from, to);
        expect(found / curl, `from ${from} to ${to}`).toBeGreaterThan(0.95);
        expect(found / curl, `from ${from} to ${to}`).toBeLessThan(1.05);
      }
    },
  );

  it('does so where triangles lie in all directions', () => {
    const rest = unevenStrip();
    const positions = run(solverOf(rest, { curlWarp: 12 }), 60);
    for (const from of [0.03, 0.08, 0.12]) {
      expect(curvature(rest, positions, 0, from, from + 0.1) / 12).toBeGreaterThan(0.95);
      expect(curvature(rest, positions, 0, from, from + 0.1) / 12).toBeLessThan(1.05);
    }
  });

  it('pushes and turns itself nowhere', () => {
    const rest = unevenStrip();
    const solver = solverOf(rest, { curlWarp: 12, damping: 0 });
    const { pointMasses } = flatTriangles(rest, fabricSchema.parse({}));
    const mass = pointMasses.reduce((sum, each) => sum + each, 0);
    const centre = (of: Float32Array) =>
      [0, 1, 2].map((axis) => pointMasses.reduce((sum, each, i) => sum + each * of[i * 3 + axis]!, 0) / mass);
    const positions = run(solver, 60);
    expect(away(centre(positions), centre(rest.positions))).toBeLessThan(0.0002);
    // It curls about its weft, and does not begin to spin about it.
    const velocities = solver.velocities(0);
    const middle = centre(positions);
    const spin = pointMasses.reduce((sum, each, i) => {
      const [x, y] = [positions[i * 3]! - middle[0]!, positions[i * 3 + 1]! - middle[1]!];
      return sum + (each / mass) * (x * velocities[i * 3 + 1]! - y * velocities[i * 3]!);
    }, 0);
    // As a rigid strip of 24 cm: in radians a second.
    expect(Math.abs(spin) / (0.24 ** 2 / 12)).toBeLessThan(0.05);
  });

  it('curls half as much where a mask leaves half, and as its numbers are keyed', () => {
    const rest = strip('warp');
    const half = new Float32Array(rest.triangles.length / 3).fill(0.5);
    const masked = run(solverOf(rest, { curlWarp: 12 }, { scales: { curlWarp: half } }), 60);
    const less = run(solverOf(rest, { curlWarp: 6 }), 60);
    expect(Math.max(...masked.map((value, i) => Math.abs(value - less[i]!)))).toBeLessThan(1e-5);
    const fabric = fabricSchema.parse({ weight: 0.2, bendWarp: 3e-5, bendWeft: 3e-5, damping: 0.05 });
    const keyed = run(solverOf(rest, {}, { fabricAt: (time) => ({ ...fabric, curlWarp: time < 0.2 ? 0 : 12 }) }), 70);
    expect(curvature(rest, keyed, 0, 0.07, 0.17)).toBeGreaterThan(11.4);
  });
});

/** A strip along the warp, folded by an angle about its middle. */
function foldedAt(rest: Mesh, angle: number): Float32Array {
  return rest.positions.map((value, i) => {
    const x = rest.positions[i - (i % 3)]!;
    if (x <= 0 || i % 3 === 2) return value;
    return i % 3 === 0 ? x * Math.cos(angle) : x * Math.sin(angle);
  });
}

/** The state after it was held in a fold for some seconds. */
function afterHolding(rest: Mesh, angle: number, seconds: number, numbers: Numbers): SolverState {
  const all = Array.from({ length: pointCount(rest) }, (_, point) => point);
  const solver = solverOf(rest, numbers, { positions: foldedAt(rest, angle), held: all });
  run(solver, Math.round(seconds * 24));
  return solver.state();
}

/** By how many degrees a strip is folded: how the ends of its middle line lie to each other. */
function foldOf(rest: Mesh, positions: Float32Array): number {
  const at = (x: number) => {
    const i = [...Array(pointCount(rest)).keys()].find(
      (point) => Math.abs(rest.positions[point * 3]! - x) < 1e-4 && Math.abs(rest.positions[point * 3 + 2]!) < 0.004,
    )!;
    return [0, 1, 2].map((axis) => positions[i * 3 + axis]!);
  };
  const direction = (from: number, to: number) => at(to).map((value, axis) => value - at(from)[axis]!);
  const [a, b] = [direction(-0.12, -0.024), direction(0.024, 0.12)];
  const cosine = a.reduce((sum, value, axis) => sum + value * b[axis]!, 0) / (Math.hypot(...a) * Math.hypot(...b));
  return (Math.acos(cosine) * 180) / Math.PI;
}

function letGo(rest: Mesh, state: SolverState, numbers: Numbers): Solver {
  const solver = solverOf(rest, numbers);
  solver.restore(state);
  return solver;
}

describe('a fabric that keeps creases', () => {
  const rest = strip('warp');

  it.each([
    [1, 90, 90],
    [0.5, 90, 45],
    [1, -90, 90],
  ])('with a memory of %d keeps of a fold of %d degrees %d', (creaseMemory, set, kept) => {
    const numbers = { creaseMemory, creaseTime: 0.1 };
    const state = afterHolding(rest, (set * Math.PI) / 180, 1, numbers);
    expect(Math.abs(foldOf(rest, run(letGo(rest, state, numbers), 72)) - kept)).toBeLessThan(5);
  });

  it('keeps none of a fold that is not sharp enough, was not held long enough, or without memory', () => {
    const fold = (angle: number, seconds: number, numbers: Numbers) => {
      const state = afterHolding(rest, (angle * Math.PI) / 180, seconds, numbers);
      return foldOf(rest, run(letGo(rest, state, numbers), 72));
    };
    expect(fold(40, 1, { creaseMemory: 1, creaseTime: 0.1, creaseAngle: 0.9 })).toBeLessThan(2);
    expect(fold(90, 0.5, { creaseMemory: 1, creaseTime: 50 })).toBeLessThan(4);
    expect(fold(90, 1, {})).toBeLessThan(2);
  });

  it('is folded the other way by a sharp fold the other way', () => {
    const numbers = { creaseMemory: 1, creaseTime: 0.1 };
    const all = Array.from({ length: pointCount(rest) }, (_, point) => point);
    const other = solverOf(rest, numbers, { positions: foldedAt(rest, -Math.PI / 2), held: all });
    const { arrays } = other.state();
    other.restore({ ...afterHolding(rest, Math.PI / 2, 1, numbers), arrays });
    run(other, 24);
    const positions = run(letGo(rest, other.state(), numbers), 72);
    expect(Math.abs(foldOf(rest, positions) - 90)).toBeLessThan(5);
    expect(positions.reduce((sum, value, i) => sum + (i % 3 === 1 ? value : 0), 0)).toBeLessThan(0);
  });

  it('goes on from a saved state bit for bit', () => {
    const numbers = { creaseMemory: 0.8, creaseTime: 0.4, curlWeft: 8 };
    const solver = letGo(rest, afterHolding(rest, 1.2, 0.3, numbers), numbers);
    run(solver, 3);
    const state = solver.state();
    const on = run(solver, 5);
    expect(run(letGo(rest, state, numbers), 5)).toEqual(on);
  });

  it('takes up a state that was saved before there were creases', () => {
    const solver = solverOf(rest, {});
    run(solver, 2);
    const state = solver.state();
    const [membrane] = state.again;
    const older = { ...state, again: [membrane!] };
    expect(run(letGo(rest, older, { creaseMemory: 0.5 }), 3)).toEqual(
      run(letGo(rest, state, { creaseMemory: 0.5 }), 3),
    );
  });
});
