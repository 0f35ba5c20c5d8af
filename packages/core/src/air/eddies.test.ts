import { describe, expect, it } from 'vitest';
import { addEddies, eddyWaves } from './eddies';

const SIZE = 0.5;
const PACE = 1;

/** Velocities of eddies of 1 m/s at a place and time. */
function field(seed = 7) {
  const waves = eddyWaves({ eddySize: SIZE, eddyPace: PACE, eddySeed: seed });
  return (x: number, y: number, z: number, time = 0): [number, number, number] => {
    const out = new Float64Array(3);
    addEddies(waves, x, y, z, time, 1, out);
    return [out[0]!, out[1]!, out[2]!];
  };
}

/** Places far enough from each other that what blows there has nothing to do with each other. */
const PLACES = Array.from({ length: 4000 }, (_, i): [number, number, number] => [
  (i % 20) * 7.31,
  (Math.floor(i / 20) % 20) * 6.17,
  Math.floor(i / 400) * 8.93,
]);
const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, value, i) => sum + value * b[i]!, 0);
const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;

describe('eddies', () => {
  it('neither make nor lose air anywhere', () => {
    const at = field();
    const h = 1e-3;
    const shares = PLACES.slice(0, 400).map(([x, y, z]) => {
      const slope = ([dx, dy, dz]: number[]) =>
        at(x + dx!, y + dy!, z + dz!).map((value, i) => (value - at(x - dx!, y - dy!, z - dz!)[i]!) / (2 * h));
      const [alongX, alongY, alongZ] = [slope([h, 0, 0]), slope([0, h, 0]), slope([0, 0, h])];
      const size = Math.hypot(...alongX, ...alongY, ...alongZ);
      return Math.abs(alongX[0]! + alongY[1]! + alongZ[2]!) / size;
    });
    expect(mean(shares)).toBeLessThan(0.005);
    expect(Math.max(...shares)).toBeLessThan(0.01);
  });

  it('have the speed that is asked for, and blow nowhere on the mean', () => {
    for (const seed of [1, 2, 99]) {
      const at = field(seed);
      const found = PLACES.map((place) => at(...place));
      expect(Math.sqrt(mean(found.map((v) => dot(v, v))))).toBeCloseTo(1, 1);
      for (const axis of [0, 1, 2]) expect(Math.abs(mean(found.map((v) => v[axis]!)))).toBeLessThan(0.02);
    }
  });

  it.each([
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
    [0.577, 0.577, 0.577],
  ])('are of the size that is asked for, along %s %s %s: there the correlation is zero', (dx, dy, dz) => {
    // Over several seeds: one field of few waves has directions of its own.
    const fields = Array.from({ length: 24 }, (_, seed) => field(seed));
    const correlation = (r: number) =>
      mean(
        fields.flatMap((at) =>
          PLACES.slice(0, 300).map(([x, y, z]) => dot(at(x, y, z), at(x + dx * r, y + dy * r, z + dz * r))),
        ),
      );
    expect(correlation(0.9 * SIZE)).toBeGreaterThan(0);
    expect(correlation(1.1 * SIZE)).toBeLessThan(0);
    expect(correlation(0.5 * SIZE)).toBeGreaterThan(0.4);
  });

  it('are the same for the same seed, others for another, and change with time', () => {
    expect(field(3)(0.1, 0.2, 0.3, 1.7)).toEqual(field(3)(0.1, 0.2, 0.3, 1.7));
    expect(field(3)(0.1, 0.2, 0.3)).not.toEqual(field(4)(0.1, 0.2, 0.3));
    const later = PLACES.map((place) => dot(field(3)(...place), field(3)(...place, SIZE / PACE)));
    expect(mean(later.slice(0, 300))).toBeLessThan(0.3);
  });
});
