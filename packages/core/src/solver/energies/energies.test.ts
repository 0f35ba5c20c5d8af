import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import { sheet } from '../../mesh/shapes/sheet';
import { topology } from '../../mesh/topology';
import { bendParts } from '../constraints/bendElements';
import { relaxedHingeWeights } from '../constraints/bendRecords';
import { flatTriangles } from '../constraints/flatTriangles';
import { Solver } from '../solver';
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

it('a strip that hangs still holds half of what its weight has done by sinking: projections come to rest where the energies say', () => {
  const soft = fabricSchema.parse({
    ...{ weight: 0.2, airAcross: 0, airAlong: 0, damping: 1 },
    stretchWarp: 30,
    stretchWeft: 30,
  });
  const strip = sheet({ width: 0.1, height: 0.4, spacing: 0.02 });
  const cut = strip.material!;
  // Hung upright, its weft down.
  const hung = Float32Array.from(
    Array.from({ length: cut.length / 2 }, (_, i) => [cut[i * 2]!, -cut[i * 2 + 1]!, 0]).flat(),
  );
  const highest = hung.reduce((most, value, i) => (i % 3 === 1 ? Math.max(most, value) : most), -Infinity);
  const top = Array.from({ length: cut.length / 2 }, (_, i) => i).filter((i) => hung[i * 3 + 1] === highest);
  const solver = new Solver({
    cloths: [{ id: 'strip', rest: strip, positions: hung, fabric: soft, held: top }],
    colliders: [],
    air: { gravity: [0, -9.81, 0], density: 0, windAt: () => [0, 0, 0] },
  });
  for (let frame = 0; frame < 96; frame++) solver.advance(1 / 24, 80);
  const lies = flatTriangles(strip, soft);
  const now = solver.positions(0);
  const stored = membraneEnergy(now, 3, strip.triangles, lies, (face) => membraneStiffness(soft, undefined, face));
  const sunk = lies.pointMasses.reduce((sum, mass, i) => sum + mass * 9.81 * (hung[i * 3 + 1]! - now[i * 3 + 1]!), 0);
  expect(sunk).toBeGreaterThan(2e-4);
  expect(stored / sunk).toBeGreaterThan(0.48);
  expect(stored / sunk).toBeLessThan(0.51);
});
