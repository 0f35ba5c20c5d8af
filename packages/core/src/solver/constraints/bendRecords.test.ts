import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import type { FaceScales } from '../../fabric/faceScales';
import { sheet } from '../../mesh/shapes/sheet';
import { topology } from '../../mesh/topology';
import { relaxedHingeWeights } from './bendRecords';

const fabric = fabricSchema.parse({ bendWarp: 4e-5, bendWeft: 2e-5 });
const make = () => sheet({ width: 0.5, height: 0.5, spacing: 0.05 });
const faces = make().triangles.length / 3;
/** Of a mesh of which nothing is known yet. */
const fresh = (given = fabric, scales?: FaceScales) => {
  const mesh = make();
  return relaxedHingeWeights(mesh, topology(mesh), given, scales);
};

describe('the stiffness of hinges, found once', () => {
  const mesh = make();
  const of = (given = fabric, scales?: FaceScales) => relaxedHingeWeights(mesh, topology(mesh), given, scales);

  it('is the same whatever was asked before, bit for bit', () => {
    const soft = { ...fabric, bendWarp: 1e-5 };
    const half = { bendWarp: new Float32Array(faces).fill(0.5) };
    const ramp = { bendWarp: Float32Array.from({ length: faces }, (_, i) => i / faces) };
    for (let round = 0; round < 2; round++) {
      expect(of()).toEqual(fresh());
      expect(of(soft)).toEqual(fresh(soft));
      expect(of(fabric, half)).toEqual(fresh(fabric, half));
      expect(of(fabric, ramp)).toEqual(fresh(fabric, ramp));
      expect(of({ ...fabric, bendWeft: 9e-5 })).toEqual(fresh({ ...fabric, bendWeft: 9e-5 }));
      expect(of(soft, half)).toEqual(fresh(soft, half));
    }
  });

  it('depends on how the fabric bends and on nothing else of it', () => {
    expect(of({ ...fabric, weight: 0.9, stretchWarp: 9, damping: 0.1 })).toBe(of());
    expect(of(fabric, { bendWarp: new Float32Array(faces).fill(0.25) })).not.toEqual(of());
    // Masks come with each document anew, and say the same.
    const mask = () => ({ bendWarp: new Float32Array(faces).fill(0.25) });
    expect(of(fabric, mask())).toBe(of(fabric, mask()));
  });

  it('changes by a mask only where the mask lies', () => {
    const t = topology(mesh);
    // Nothing of the first tenth of the faces.
    const mask = Float32Array.from({ length: faces }, (_, face) => (face < faces / 10 ? 0 : 1));
    const [plain, masked] = [of(), of(fabric, { bendWarp: mask, bendWeft: mask })];
    let changed = 0;
    for (let edge = 0; edge < t.edgeCount; edge++) {
      const touched = [0, 1].some((side) => mask[t.edgeFaces[edge * 2 + side]!] === 0);
      if (touched) changed += masked[edge]! < plain[edge]! ? 1 : 0;
      else expect(masked[edge]).toBe(plain[edge]);
    }
    expect(changed).toBeGreaterThan(5);
  });

  it('is none on borders, and grows with the rigidity of the fabric', () => {
    const t = topology(mesh);
    const all = of();
    const stiff = of({ ...fabric, bendWarp: 8e-5, bendWeft: 4e-5 });
    for (let edge = 0; edge < t.edgeCount; edge++) {
      if (t.edgeFaces[edge * 2 + 1] === -1) expect(all[edge]).toBe(0);
      else expect(stiff[edge]! / all[edge]!).toBeCloseTo(2, 6);
    }
  });
});
