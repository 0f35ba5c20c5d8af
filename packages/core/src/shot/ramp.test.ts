import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sheet } from '../mesh/shapes/sheet';
import type { Ramp } from './masks';
import { rampValues } from './ramp';

const mesh = sheet({ width: 2, height: 1, spacing: 0.1 });
const across: Ramp = { kind: 'straight', from: [0, 0], to: [1, 0], waves: false, inverted: false, phase: 0 };
/** The point nearest to a place of the fabric, in m. */
const near = (u: number, v: number) => {
  const away = (i: number) => Math.hypot(mesh.material![i * 2]! - u, mesh.material![i * 2 + 1]! - v);
  return Array.from({ length: mesh.positions.length / 3 }, (_, i) => i).reduce((a, b) => (away(b) < away(a) ? b : a));
};

describe('a ramp', () => {
  it('falls evenly from its beginning to its end, whatever the shape of the fabric', () => {
    const values = rampValues(mesh, across, 0);
    values.forEach((value, i) => expect(value).toBeCloseTo(1 - mesh.material![i * 2]! / 2, 5));
    const slanted = rampValues(mesh, { ...across, to: [1, 1] }, 0);
    expect(slanted[near(0, 0)]).toBeCloseTo(1, 5);
    expect(slanted[near(1, 0.5)]).toBeCloseTo(0.5, 5);
    // Across the way of a ramp its values stay: (1, 0.5) and a place at right angles to (2, 1).
    expect(slanted[near(0.8, 0.9)]).toBeCloseTo(0.5, 5);
  });

  it('is round by distance on the fabric, not by shares of its sides', () => {
    const values = rampValues(mesh, { ...across, kind: 'round', from: [0.5, 0.5], to: [0.7, 0.5] }, 0);
    expect(values[near(1, 0.5)]).toBe(1);
    expect(values[near(1.2, 0.5)]).toBeCloseTo(values[near(1, 0.7)]!, 5);
    expect(values[near(1.2, 0.5)]).toBeCloseTo(0.5, 5);
    expect(values[near(1.4, 0.5)]).toBeCloseTo(0, 5);
  });

  it('is shifted along itself by its phase', () => {
    fc.assert(
      fc.property(fc.double({ min: -2, max: 2, noNaN: true }), fc.boolean(), (phase, waves) => {
        const shifted = rampValues(mesh, { ...across, to: [0.4, 0], waves }, phase);
        const moved = rampValues(mesh, { ...across, from: [0.4 * phase, 0], to: [0.4 + 0.4 * phase, 0], waves }, 0);
        shifted.forEach((value, i) => expect(value).toBeCloseTo(moved[i]!, 5));
      }),
    );
    expect(rampValues(mesh, across, 1).every((value) => value === 1)).toBe(true);
    expect(rampValues(mesh, across, -1).every((value) => value === 0)).toBe(true);
  });

  it('in waves comes back after its own length', () => {
    const values = rampValues(mesh, { ...across, to: [0.25, 0], waves: true }, 0);
    expect(values[near(0.5, 0.3)]).toBeCloseTo(1, 5);
    expect(values[near(1.5, 0.3)]).toBeCloseTo(1, 5);
    expect(values[near(0.3, 0)]).toBeCloseTo(values[near(0.8, 0)]!, 5);
  });

  it('inverted is the rest to 1, and a straight one the same as one that goes the other way', () => {
    for (const kind of ['straight', 'round'] as const) {
      const plain = rampValues(mesh, { ...across, kind, from: [0.3, 0.2] }, 0.1);
      rampValues(mesh, { ...across, kind, from: [0.3, 0.2], inverted: true }, 0.1).forEach((value, i) =>
        expect(value).toBeCloseTo(1 - plain[i]!, 6),
      );
    }
    const back = rampValues(mesh, { ...across, from: [1, 0], to: [0, 0] }, 0);
    rampValues(mesh, { ...across, inverted: true }, 0).forEach((value, i) => expect(value).toBeCloseTo(back[i]!, 6));
  });

  it('without a length, or on a mesh without points, gives numbers all the same', () => {
    expect(rampValues(mesh, { ...across, to: [0, 0] }, 0).every(Number.isFinite)).toBe(true);
    expect(rampValues({ positions: new Float32Array(), triangles: new Uint32Array() }, across, 0)).toHaveLength(0);
  });
});
