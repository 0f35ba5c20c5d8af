import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../fabric/fabric';
import { findCard, SWATCH_BOOK } from '../fabric/swatchBook';
import { disc } from '../mesh/shapes/disc';
import { borderLoops, topology } from '../mesh/topology';
import { bendTest } from './bendTest';
import { DISC_RADIUS, drapeTest } from './drapeTest';
import { bendingLength, elastica, rigidityOfShape } from './elastica';
import { stretchTest } from './stretchTest';

describe('elastica', () => {
  it('droops by w g L^4 / 8 B when it is stiff', () => {
    const tip = elastica(0.05, 0.15, 1e-3).at(-1)!;
    expect(-tip[1] / ((0.15 * 9.81 * 0.05 ** 4) / 8e-3)).toBeCloseTo(1, 2);
  });

  it('is found again from its own shape', () => {
    const shape = elastica(0.04, 0.15, 1e-5).map(([x, y], i, all) => ({ along: (0.04 * i) / (all.length - 1), x, y }));
    expect(rigidityOfShape(shape, 0.04, 0.15) / 1e-5).toBeCloseTo(1, 3);
  });

  it('has the bending length (B / w g)^(1/3)', () => {
    expect(bendingLength(0.1, 8e-6)).toBeCloseTo(Math.cbrt(8e-6 / 0.981), 9);
  });
});

describe('bend test', () => {
  it.each(['silk-chiffon', 'wool-suiting', 'canvas'])('of %s finds its rigidity along warp, weft and bias', (id) => {
    const { fabric } = findCard(id)!;
    for (const direction of ['warp', 'weft', 'bias'] as const) {
      const { rigidity, predictedRigidity } = bendTest(fabric, { direction });
      expect(Math.abs(rigidity / predictedRigidity - 1), direction).toBeLessThan(0.1);
    }
  });

  it('holds for fabrics whose warp is up to four times their weft, in every direction and at every spacing', () => {
    const fine = [
      [2, 0.003],
      [4, 0.004],
    ] as const;
    const quick = [
      [2.8, 0.004],
      [2.8, 0.012],
      [4, 0.008],
    ] as const;
    for (const [ratio, spacing] of process.env['LUMBRA_NIGHTLY'] ? [...fine, ...quick] : quick) {
      const weft = spacing > 0.01 ? 2e-5 : 6e-6;
      const fabric = fabricSchema.parse({ weight: 0.15, bendWarp: weft * ratio, bendWeft: weft });
      for (const direction of ['warp', 'weft', 'bias'] as const) {
        const { rigidity, predictedRigidity } = bendTest(fabric, { direction, spacing, honoured: 0.95 });
        const what = `${ratio} to 1, ${spacing} m, ${direction}`;
        expect(Math.abs(rigidity / predictedRigidity - 1), what).toBeLessThan(0.08);
      }
    }
  });

  it('is clamped where the length is no multiple of the spacing', () => {
    const fabric = fabricSchema.parse({ weight: 0.15, bendWarp: 1e-5, bendWeft: 1e-5 });
    for (const spacing of [0.0041, 0.0047, 0.0055]) {
      const { rigidity } = bendTest(fabric, { direction: 'warp', length: 0.04, width: 0.02, spacing });
      expect(Math.abs(rigidity / 1e-5 - 1), `${spacing} m`).toBeLessThan(0.05);
    }
  });

  it('holds for a strip of 5 by 2 cm at 5 and 10 mm', () => {
    const fabric = fabricSchema.parse({ weight: 0.15, bendWarp: 1e-5, bendWeft: 1e-5, damping: 0.05 });
    for (const spacing of [0.005, 0.01]) {
      const { rigidity } = bendTest(fabric, { direction: 'warp', length: 0.05, width: 0.02, spacing, honoured: 0.95 });
      expect(Math.abs(rigidity / 1e-5 - 1), `${spacing} m`).toBeLessThan(0.06);
    }
  });
});

describe('stretch test', () => {
  it.each(['cotton-jersey', 'canvas'])('of %s gives load over stiffness', (id) => {
    for (const direction of ['warp', 'weft'] as const) {
      const { extension, predicted } = stretchTest(findCard(id)!.fabric, direction);
      expect(Math.abs(extension / predicted - 1)).toBeLessThan(0.02);
    }
  });
});

describe('drape test', () => {
  // All of them at night: each takes seconds.
  const tried = SWATCH_BOOK.filter((_, i) => process.env['LUMBRA_NIGHTLY'] || i % 3 === 0);
  it.each(tried.map((card) => [card.name, card] as const))(
    '%s drapes as such cloth does',
    (_, { fabric, drapeRange }) => {
      const { coefficient, outline } = drapeTest(fabric);
      expect(coefficient).toBeGreaterThanOrEqual(drapeRange[0]);
      expect(coefficient).toBeLessThanOrEqual(drapeRange[1]);
      expect(outline.length).toBe(90);
    },
  );

  it('falls as bending falls against weight', () => {
    const coarse = disc({ radius: DISC_RADIUS, spacing: 0.0125 });
    const of = (bend: number) => drapeTest(fabricSchema.parse({ weight: 0.2, bendWarp: bend, bendWeft: bend }), coarse);
    const coefficients = [200e-6, 40e-6, 8e-6].map((bend) => of(bend).coefficient);
    expect(coefficients[0]!).toBeGreaterThan(coefficients[1]! + 0.1);
    expect(coefficients[1]!).toBeGreaterThan(coefficients[2]! + 0.1);
  });

  it('is the same within 5 % on a finer mesh', () => {
    const { fabric } = findCard('linen-mid')!;
    const drapeAt = (spacing: number) => drapeTest(fabric, disc({ radius: DISC_RADIUS, spacing })).coefficient;
    const [coarse, fine] = process.env['LUMBRA_NIGHTLY'] ? [0.01, 0.0075] : [0.0125, 0.0094];
    expect(Math.abs(drapeAt(fine) / drapeAt(coarse) - 1)).toBeLessThan(0.05);
  });
});

describe('disc', () => {
  it('is round, has even triangles and one border', () => {
    const mesh = disc({ radius: 0.15, spacing: 0.01 });
    const t = topology(mesh);
    const [loop] = borderLoops(t);
    expect(borderLoops(t)).toHaveLength(1);
    for (const point of loop!) {
      expect(Math.hypot(mesh.positions[point * 3]!, mesh.positions[point * 3 + 2]!)).toBeCloseTo(0.15, 6);
    }
    expect(t.flippedEdges).toBe(0);
    let area = 0;
    for (let i = 0; i < mesh.triangles.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => mesh.triangles[i + k]! * 3) as [number, number, number];
      const p = mesh.positions;
      const double = (p[b + 2]! - p[a + 2]!) * (p[c]! - p[a]!) - (p[b]! - p[a]!) * (p[c + 2]! - p[a + 2]!);
      // Facing up, all of nearly the same size.
      expect(double / 2).toBeGreaterThan(0.3e-4);
      expect(double / 2).toBeLessThan(0.7e-4);
      area += double / 2;
    }
    expect(area / (Math.PI * 0.15 ** 2)).toBeCloseTo(1, 2);
  });
});
