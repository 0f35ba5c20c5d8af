import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import { sheet } from '../../mesh/shapes/sheet';
import { topology } from '../../mesh/topology';
import { bendParts } from '../constraints/bendElements';
import { relaxedHingeWeights } from '../constraints/bendRecords';
import { flatTriangles } from '../constraints/flatTriangles';
import { bendEnergy } from './bendEnergy';
import { membraneEnergy, membraneStiffness } from './membraneEnergy';

const fabric = fabricSchema.parse({
  ...{ stretchWarp: 900, stretchWeft: 400, shear: 60, squeeze: 0.2, bendWarp: 3e-5, bendWeft: 1e-5 },
});
const rest = sheet({ width: 0.4, height: 0.3, spacing: 0.01 });
const flat = flatTriangles(rest, fabric);
const material = rest.material!;
/** The sheet with each point where its place on the fabric leads. */
const laid = (place: (u: number, v: number) => [number, number, number]): Float64Array =>
  Float64Array.from(
    Array.from({ length: material.length / 2 }, (_, i) => place(material[i * 2]!, material[i * 2 + 1]!)).flat(),
  );
const inMembrane = (positions: Float64Array) =>
  membraneEnergy(positions, 3, rest.triangles, flat, (face) => membraneStiffness(fabric, undefined, face));

describe('the energy of the membrane', () => {
  it('is half the stiffness times area times the square of the stretch, along warp and weft', () => {
    expect(inMembrane(laid((u, v) => [u, 0, v]))).toBeLessThan(1e-9);
    expect(inMembrane(laid((u, v) => [u * 1.02, 0, v]))).toBeCloseTo(0.5 * 900 * 0.12 * 0.02 ** 2, 8);
    expect(inMembrane(laid((u, v) => [u, 0, v * 1.03]))).toBeCloseTo(0.5 * 400 * 0.12 * 0.03 ** 2, 8);
  });

  it('is less where cloth is pushed together, and that of a sheared thread where it is sheared', () => {
    expect(inMembrane(laid((u, v) => [u * 0.98, 0, v]))).toBeCloseTo(0.5 * 900 * 0.2 * 0.12 * 0.02 ** 2, 8);
    const angle = 0.1;
    const sheared = laid((u, v) => [u + v * Math.sin(angle), 0, v * Math.cos(angle)]);
    expect(inMembrane(sheared)).toBeCloseTo(0.5 * 60 * 0.12 * Math.sin(angle) ** 2, 8);
  });

  it('is that of a turned sheet, wherever it is', () => {
    const [c, s] = [Math.cos(0.7), Math.sin(0.7)];
    const turned = laid((u, v) => [2 + c * u * 1.02, 1 + s * u * 1.02, v]);
    expect(inMembrane(turned)).toBeCloseTo(inMembrane(laid((u, v) => [u * 1.02, 0, v])), 8);
  });
});

describe('the energy of bending', () => {
  const { flat: elements } = bendParts(rest);
  const ofEdges = relaxedHingeWeights(rest, topology(rest), fabric);
  const bent = (positions: Float64Array) => bendEnergy(positions, 3, elements, ofEdges);

  it('is none of a flat sheet, and of one on a cylinder half the rigidity times area times the square of the curvature', () => {
    const radius = 0.2;
    const round = (along: number) => [radius * Math.sin(along / radius), radius * Math.cos(along / radius)] as const;
    expect(bent(laid((u, v) => [u, 0, v]))).toBeLessThan(1e-12);
    const warp = bent(laid((u, v) => [...round(u), v]));
    const weft = bent(laid((u, v) => [u, ...round(v)]));
    // Beside a border half a spacing is not bent.
    for (const [energy, rigidity] of [
      [warp, 3e-5],
      [weft, 1e-5],
    ] as const) {
      expect(energy / ((0.5 * rigidity * 0.12) / radius ** 2)).toBeGreaterThan(0.96);
      expect(energy / ((0.5 * rigidity * 0.12) / radius ** 2)).toBeLessThan(1.01);
    }
  });
});
