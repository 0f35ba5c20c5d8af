import { describe, expect, it } from 'vitest';
import type { Vector3 } from '../math/vector';
import { STILL } from '../math/pose';
import { castShadow, type Caster } from './windShadow';
import { roundWay, straightWay } from './windWay';

const ALONG: Vector3 = [0, 0, 1];
const NORMAL: Vector3 = [0, 0, 1];
const REACH = 4;

/** An upright plate of so many m, square to the wind, its middle at a place; of fine faces, as cloth is. */
function plate(size: number, [x, y, z]: Vector3, cells = 20): Caster {
  const positions: number[] = [];
  const triangles: number[] = [];
  for (let row = 0; row <= cells; row++) {
    for (let column = 0; column <= cells; column++) {
      positions.push(x + (column / cells - 0.5) * size, y + (row / cells - 0.5) * size, z);
    }
  }
  for (let row = 0; row < cells; row++) {
    for (let column = 0; column < cells; column++) {
      const a = row * (cells + 1) + column;
      triangles.push(a, a + 1, a + cells + 2, a, a + cells + 2, a + cells + 1);
    }
  }
  return { positions, triangles };
}

/** The mean of the wind’s pressure on a plate, as a share of that in the open. */
function pressureOn({ positions }: Caster, casters: readonly Caster[]): number {
  const shadow = castShadow(casters, straightWay(ALONG));
  let sum = 0;
  for (let i = 0; i < positions.length; i += 3) {
    const shade = shadow.shade(positions[i]!, positions[i + 1]!, positions[i + 2]!, ...NORMAL, REACH);
    sum += (1 - shade) ** 2;
  }
  return sum / (positions.length / 3);
}

describe('the shadow that things cast in a wind', () => {
  const front = plate(1, [0, 1, 0]);

  it('leaves a plate close behind another under 5 % of the force', () => {
    const behind = plate(0.8, [0, 1, 0.4]);
    expect(pressureOn(behind, [front, behind])).toBeLessThan(0.05);
  });

  it('halves the force on a plate that is half covered', () => {
    const behind = plate(0.8, [0.5, 1, 0.3]);
    expect(Math.abs(pressureOn(behind, [front, behind]) - 0.5)).toBeLessThan(0.05);
  });

  it('is cast by nothing on itself, square to the wind, slanted or along it', () => {
    expect(pressureOn(front, [front])).toBe(1);
    for (const degrees of [30, 60, 80]) {
      const angle = (degrees * Math.PI) / 180;
      const flat = plate(1, [0, 0, 0]);
      const positions = Array.from(flat.positions, (_, i) => {
        const y = flat.positions[i - (i % 3) + 1]!;
        if (i % 3 === 1) return y * Math.cos(angle);
        return i % 3 === 2 ? y * Math.sin(angle) : flat.positions[i]!;
      });
      const slanted = { positions, triangles: flat.triangles };
      const shadow = castShadow([slanted], straightWay(ALONG));
      for (let i = 0; i < positions.length; i += 3) {
        const normal: Vector3 = [0, -Math.sin(angle), Math.cos(angle)];
        expect(shadow.shade(positions[i]!, positions[i + 1]!, positions[i + 2]!, ...normal, REACH)).toBe(0);
      }
    }
  });

  it('is gone in front, beside, and beyond its reach', () => {
    expect(pressureOn(plate(0.8, [0, 1, -0.5]), [front])).toBe(1);
    expect(pressureOn(plate(0.8, [2, 1, 0.5]), [front])).toBe(1);
    expect(pressureOn(plate(0.8, [0, 1, REACH + 0.1]), [front])).toBe(1);
    const half = pressureOn(plate(0.8, [0, 1, REACH / 2]), [front]);
    expect(half).toBeGreaterThan(0.2);
    expect(half).toBeLessThan(0.3);
  });

  it('is that of the nearest of several', () => {
    const near = plate(1, [0, 1, REACH]);
    const last = plate(0.8, [0, 1, REACH + 0.3]);
    expect(pressureOn(last, [front, near, last])).toBeLessThan(0.05);
  });

  it('goes round with air that does', () => {
    // Round its own y, from z to x: a plate at +z is come by before one at +x, and that before one at -z.
    const ahead: Caster = { positions: [0, 0, 0.5, 0, 0, 1.5, 0, 1, 1.5, 0, 1, 0.5], triangles: [0, 1, 2, 0, 2, 3] };
    const shade = castShadow([ahead], roundWay(STILL)).shade;
    const at = (degrees: number, radius: number, y: number, reach: number) => {
      const angle = (degrees * Math.PI) / 180;
      const [x, z] = [Math.sin(angle), Math.cos(angle)];
      // A surface square to the way.
      return shade(radius * x, y, radius * z, z, 0, -x, reach);
    };
    // A quarter round is pi/2 m at a radius of 1 m.
    expect(at(5, 1, 0.5, 4)).toBeGreaterThan(0.95);
    expect(at(90, 1, 0.5, Math.PI)).toBeCloseTo(0.5, 1);
    expect(at(90, 1, 0.5, 1.5)).toBe(0);
    expect(at(90, 1.8, 0.5, 4)).toBe(0);
    expect(at(90, 1, 1.3, 4)).toBe(0);
    // What lies down the way of it is three quarters round up the way.
    expect(at(-90, 1, 0.5, 3)).toBe(0);
    expect(at(-90, 1, 0.5, 3 * Math.PI)).toBeCloseTo(0.5, 1);
  });
});
