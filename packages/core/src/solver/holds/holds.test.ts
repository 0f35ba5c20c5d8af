import { describe, expect, it } from 'vitest';
import { findCard } from '../../fabric/swatchBook';
import { sheet } from '../../mesh/shapes/sheet';
import { giveOf } from './holds';
import type { ClothModel, HoldModel, Model } from '../model';
import { Solver } from '../solver';

const RATE = 1 / 24;
const SUBSTEPS = 40;

function hanging(given: Partial<ClothModel> = {}, columns = 0.4): { model: Model; rest: ClothModel['rest'] } {
  const rest = sheet({ width: columns, height: 0.4, spacing: 0.04 });
  const positions = rest.positions.slice();
  const cloth: ClothModel = { id: 'c', rest, positions, fabric: findCard('linen-mid')!.fabric, held: [], ...given };
  const air = { gravity: [0, -9.81, 0] as const, density: 0, windAt: () => [0, 0, 0] as [number, number, number] };
  return { rest, model: { cloths: [cloth], colliders: [], air: { ...air, gravity: [0, -9.81, 0] } } };
}

/** The points of one side, drawn along x at a speed in m/s. */
function drawn(points: number[], places: Float32Array, speed: number, strength = 1): HoldModel {
  return {
    points,
    placesAt: (time) =>
      Float32Array.from(
        points.flatMap((point) => [places[point * 3]! + speed * time, places[point * 3 + 1]!, places[point * 3 + 2]!]),
      ),
    strengthsAt: () => new Float32Array(points.length).fill(strength),
    carried: strength >= 1 ? points : [],
  };
}

const row = Array.from({ length: 11 }, (_, i) => i);

describe('holds', () => {
  it('carried points are within 0.01 mm of where they are held at every frame, and the cloth comes along', () => {
    const { rest } = hanging();
    const { model } = hanging({ holds: [drawn(row, rest.positions, 0.8)] });
    const solver = new Solver(model);
    for (let frame = 1; frame <= 24; frame++) {
      solver.advance(RATE, SUBSTEPS);
      const positions = solver.positions(0);
      for (const point of row) {
        const wanted = rest.positions[point * 3]! + 0.8 * frame * RATE;
        expect(Math.abs(positions[point * 3]! - wanted)).toBeLessThan(1e-5);
        expect(Math.abs(positions[point * 3 + 1]! - rest.positions[point * 3 + 1]!)).toBeLessThan(1e-5);
      }
    }
    // It hangs below, swinging after what carries it, and is not stretched.
    const last = solver.positions(0).subarray(-3);
    expect(last[1]).toBeLessThan(-0.2);
    expect(last[0]).toBeGreaterThan(0.4);
    expect(solver.measure().stretch.largest).toBeLessThan(0.03);
  });

  it('a hold of lesser strength gives, the more the weaker, whatever the number of substeps', () => {
    const { rest } = hanging();
    const sag = (strength: number, substeps: number) => {
      const { model } = hanging({ holds: [drawn(row, rest.positions, 0, strength)] });
      const solver = new Solver(model);
      for (let frame = 0; frame < 48; frame++) {
        solver.advance(RATE, substeps);
        solver.calm(0.8);
      }
      return -solver.positions(0)[5 * 3 + 1]!;
    };
    const half = sag(0.5, SUBSTEPS);
    expect(half).toBeGreaterThan(0.005);
    expect(sag(0.3, SUBSTEPS)).toBeGreaterThan(3 * half);
    expect(sag(0.8, SUBSTEPS)).toBeLessThan(half / 3);
    expect(sag(0.5, 2 * SUBSTEPS)).toBeGreaterThan(half * 0.95);
    expect(sag(0.5, 2 * SUBSTEPS)).toBeLessThan(half * 1.05);
  });

  it('gives all at full strength and nothing at none', () => {
    expect(giveOf(1, 0.001)).toBe(1);
    expect(giveOf(0, 0.001)).toBe(0);
    expect(giveOf(0.6, 0.001)).toBeGreaterThan(giveOf(0.5, 0.001));
  });

  it('points that are let go fall, and are caught again where they are held', () => {
    const { rest } = hanging();
    const strengthsAt = (time: number) => new Float32Array(11).fill(time < 0.3 || time > 0.6 ? 1 : 0);
    const { model } = hanging({ holds: [{ ...drawn(row, rest.positions, 0), strengthsAt, carried: [] }] });
    const solver = new Solver(model);
    const heights: number[] = [];
    for (let frame = 0; frame < 24; frame++) {
      solver.advance(RATE, SUBSTEPS);
      heights.push(solver.positions(0)[1]!);
    }
    expect(heights[5]).toBeCloseTo(0, 5);
    expect(heights[12]).toBeLessThan(-0.2);
    expect(heights[23]).toBeCloseTo(0, 5);
  });

  it('a leash lets points stray, and no farther', () => {
    const { rest } = hanging();
    const all = Array.from({ length: rest.positions.length / 3 }, (_, i) => i);
    const slack = new Float32Array(all.length).fill(0.05);
    const { model } = hanging({ holds: [{ ...drawn(all, rest.positions, 0), carried: [], slackAt: () => slack }] });
    const solver = new Solver(model);
    for (let frame = 0; frame < 24; frame++) {
      solver.advance(RATE, SUBSTEPS);
      const positions = solver.positions(0);
      for (const point of all) {
        const away = Math.hypot(
          ...[0, 1, 2].map((axis) => positions[point * 3 + axis]! - rest.positions[point * 3 + axis]!),
        );
        expect(away).toBeLessThan(0.0505);
      }
    }
    expect(solver.positions(0)[1]).toBeLessThan(-0.045);
  });

  it('cloth tied to cloth hangs from it at the length of its ties, and pulls it down', () => {
    const { model, rest } = hanging({ id: 'upper', held: row });
    const below = rest.positions.map((value, i) => (i % 3 === 1 ? value - 0.01 : value));
    const points = Array.from({ length: 11 }, (_, i) => 110 + i);
    const corners = Uint32Array.from(points.flatMap((point) => [point, point, point]));
    model.cloths.push({
      ...model.cloths[0]!,
      id: 'lower',
      positions: below,
      held: [],
      ties: [
        {
          ...{ points, to: 'upper', corners, weights: new Float32Array(33).fill(1 / 3) },
          lengthsAt: () => new Float32Array(11).fill(0.01),
          strengthsAt: () => new Float32Array(11).fill(1),
        },
      ],
    });
    const solver = new Solver(model);
    for (let frame = 0; frame < 72; frame++) {
      solver.advance(RATE, SUBSTEPS);
      solver.calm(0.9);
    }
    const [upper, lower] = [solver.positions(0), solver.positions(1)];
    for (const point of points) {
      const away = Math.hypot(...[0, 1, 2].map((axis) => upper[point * 3 + axis]! - lower[point * 3 + axis]!));
      expect(Math.abs(away - 0.01)).toBeLessThan(1e-3);
    }
    expect(lower[0 * 3 + 1]).toBeLessThan(-0.5);
  });

  it('a soft grip leads cloth along and lets it go again', () => {
    const { model } = hanging({ held: row });
    const solver = new Solver(model);
    for (let frame = 0; frame < 96; frame++) {
      solver.advance(RATE, SUBSTEPS);
      solver.calm(0.8);
    }
    const hung = solver.positions(0);
    const last = hung.length / 3 - 6;
    const place = [...hung.subarray(last * 3, last * 3 + 3)];
    expect(solver.grip(0, place, 0.1)).toBeGreaterThan(5);
    for (let frame = 1; frame <= 24; frame++) {
      solver.moveGrip([0, 0, (0.15 * frame) / 24]);
      solver.advance(RATE, SUBSTEPS);
    }
    expect(solver.positions(0)[last * 3 + 2]! - place[2]!).toBeGreaterThan(0.1);
    solver.letGo();
    for (let frame = 0; frame < 96; frame++) {
      solver.advance(RATE, SUBSTEPS);
      solver.calm(0.8);
    }
    expect(Math.abs(solver.positions(0)[last * 3 + 2]! - place[2]!)).toBeLessThan(0.02);
    expect(solver.grip(0, [9, 9, 9], 0.1)).toBe(0);
  });

  it('other numbers are taken over while it runs, from where the holds are', () => {
    const { rest } = hanging();
    const { model } = hanging({ holds: [drawn(row, rest.positions, 0)] });
    const solver = new Solver(model);
    solver.advance(RATE, SUBSTEPS);
    const moved = rest.positions.map((value, i) => (i % 3 === 1 ? value + 0.03 : value));
    const held = (points: number[]) => ({
      ...model,
      cloths: [{ ...model.cloths[0]!, holds: [drawn(points, moved, 0)] }],
    });
    expect(solver.take(held(row))).toBe(true);
    solver.advance(RATE, SUBSTEPS);
    expect(solver.positions(0)[1]).toBeCloseTo(0.03, 5);
    expect(solver.measure().fastest).toBeLessThan(2);
    expect(solver.take(held([1, 2]))).toBe(false);
  });
});
