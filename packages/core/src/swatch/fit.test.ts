import { describe, expect, it } from 'vitest';
import { disc } from '../mesh/shapes/disc';
import { fabricSchema } from '../fabric/fabric';
import { findCard, SWATCH_BOOK } from '../fabric/swatchBook';
import { bendTest } from './bendTest';
import { drapeTest } from './drapeTest';
import { fitDrape } from './fitDrape';
import { MEASUREMENTS } from './measurements';
import { stretchTest } from './stretchTest';

const linen = findCard('linen-mid')!.fabric;

describe('measurements', () => {
  it.each(SWATCH_BOOK.map(({ id, fabric }) => [id, fabric] as const))('of %s lead back to its numbers', (_, fabric) => {
    for (const { number, measured, fitted } of MEASUREMENTS) {
      expect(fitted(measured(fabric), fabric) / fabric[number]).toBeCloseTo(1, 9);
    }
  });

  it('that are typed are found again by the swatch tests', () => {
    const [bend, , stretch] = MEASUREMENTS;
    const fabric = {
      ...linen,
      bendWarp: bend!.fitted(0.027, linen),
      stretchWarp: stretch!.fitted(0.03, linen),
    };
    expect(bendTest(fabric, { direction: 'warp' }).bendingLength / 0.027).toBeCloseTo(1, 1);
    expect(stretchTest(fabric, 'warp').extension / 0.03).toBeCloseTo(1, 1);
  });
});

describe('a fit to a drape coefficient', () => {
  const coarse = disc({ radius: 0.15, spacing: 0.02 });
  const quick = (fabric: typeof linen) => drapeTest(fabric, coarse);

  it('changes how hard the fabric is to bend, warp and weft alike, until it drapes so', () => {
    const told: number[] = [];
    const fitted = fitDrape(linen, 0.45, (done) => told.push(done) > 0, quick)!;
    expect(fitted.test.coefficient).toBeGreaterThan(0.42);
    expect(fitted.test.coefficient).toBeLessThan(0.48);
    expect(fitted.bendWarp / fitted.bendWeft).toBeCloseTo(linen.bendWarp / linen.bendWeft, 9);
    expect(told).toEqual(told.map((_, i) => i + 1));
  });

  it('says so where no such cloth drapes like that, and stops when told', () => {
    const flat = (fabric: typeof linen) => ({ ...quick(linen), coefficient: fabric.bendWarp > 1 ? 1 : 0.3 });
    expect(() => fitDrape(linen, 0.95, undefined, flat)).toThrow(/does not drape to 95 %: the nearest was 30 %/);
    expect(fitDrape(linen, 0.45, () => false, quick)).toBeNull();
    // Cloth that does not bend at all has something to begin with.
    const limp = fabricSchema.parse({ ...linen, bendWarp: 0, bendWeft: 0 });
    expect(fitDrape(limp, 0.5, undefined, quick)!.bendWarp).toBeGreaterThan(0);
  });
});
