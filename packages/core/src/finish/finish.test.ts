import { describe, expect, it } from 'vitest';
import { faceAreas } from '../mesh/faceAreas';
import type { Mesh } from '../mesh/mesh';
import { ball } from '../mesh/shapes/ball';
import { disc } from '../mesh/shapes/disc';
import { sheet } from '../mesh/shapes/sheet';
import { isClosed, topology } from '../mesh/topology';
import { signedVolume } from '../mesh/volume';
import { FinishList } from './finishCloth';
import { cornersOf, limitStencil, loopLevel } from './loop';
import { applyStencil } from './stencil';
import { FINISH_KINDS, FINISH_STEPS, finishEntrySchema, type FinishEntry, type FinishKind } from './steps';

const flat = sheet({ width: 0.6, height: 0.4, spacing: 0.05 });
const none = () => null;
let made = 0;

function entry(kind: FinishKind, numbers: object = {}, more: Partial<FinishEntry> = {}): FinishEntry {
  return finishEntrySchema.parse({ id: `s${made++}`, ...more, step: { kind, ...numbers } });
}

/** The mesh with each of its points where `of` puts it. */
function moved(mesh: Mesh, of: (x: number, y: number, z: number) => [number, number, number]): Float32Array {
  const out = mesh.positions.slice();
  for (let i = 0; i < out.length; i += 3) out.set(of(out[i]!, out[i + 1]!, out[i + 2]!), i);
  return out;
}

function finished(mesh: Mesh, positions: Float32Array, ...entries: FinishEntry[]): Mesh {
  const list = new FinishList(mesh, entries);
  return { ...list.mesh, positions: list.place(positions, entries, none) };
}

/** A tetrahedron and an octahedron have points with three and four faces, a ball with five and six. */
const TETRAHEDRON: Mesh = {
  positions: new Float32Array([1, 1, 1, -1, -1, 1, -1, 1, -1, 1, -1, -1]),
  triangles: new Uint32Array([0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3]),
};
const CLOSED: [string, Mesh][] = [
  ['tetrahedron', TETRAHEDRON],
  ['ball', ball({ radius: 0.5, detail: 2 })],
];

describe('subdividing', () => {
  it.each([...CLOSED, ['sheet', flat], ['disc', disc({ radius: 0.3, spacing: 0.06 })]] as [string, Mesh][])(
    'keeps the limit surface: points of a %s come to lie at the same places after any number of levels',
    (_, mesh) => {
      const corners = cornersOf(mesh);
      const bent = moved(mesh, (x, y, z) => [x, y + 0.3 * x * x - 0.2 * z * x, z]);
      const limit = applyStencil(limitStencil(mesh, corners), bent, 3);
      let [now, places] = [mesh, bent];
      for (let level = 0; level < 3; level++) {
        const { mesh: finer, stencil } = loopLevel(now, corners);
        places = applyStencil(stencil, places, 3);
        now = finer;
        const again = applyStencil(limitStencil(now, corners), places, 3);
        limit.forEach((value, i) => expect(Math.abs(again[i]! - value)).toBeLessThan(1e-6));
      }
    },
  );

  it('leaves a flat sheet flat, with its corners and its material coordinates', () => {
    const done = finished(flat, flat.positions, entry('subdivide', { times: 2 }));
    expect(cornersOf(flat).size).toBe(4);
    expect(done.triangles.length).toBe(flat.triangles.length * 16);
    for (let i = 0; i < done.positions.length / 3; i++) {
      expect(Math.abs(done.positions[i * 3 + 1]!)).toBeLessThan(1e-7);
    }
    const area = faceAreas(done).reduce((sum, one) => sum + one, 0);
    expect(area).toBeCloseTo(0.24, 6);
    // u runs along one side, so as far as the points do.
    const spread = (values: number[]) => Math.max(...values) - Math.min(...values);
    expect(spread([...done.material!].filter((_, i) => i % 2 === 0))).toBeCloseTo(0.6, 6);
  });

  it('comes nearer to a cylinder by the square of the spacing', () => {
    const error = (spacing: number) => {
      const strip = sheet({ width: 1, height: 0.3, spacing });
      const bent = moved(strip, (x, _, z) => [0.4 * Math.sin(x / 0.4), 0.4 * Math.cos(x / 0.4), z]);
      const { positions } = finished(strip, bent, entry('subdivide', { keepsPoints: false }));
      const away = [...Array(positions.length / 3).keys()]
        .filter((i) => Math.abs(positions[i * 3]!) < 0.25 && Math.abs(positions[i * 3 + 2]!) < 0.1)
        .map((i) => Math.abs(Math.hypot(positions[i * 3]!, positions[i * 3 + 1]!) - 0.4));
      return Math.max(...away);
    };
    expect(error(0.05) / error(0.025)).toBeGreaterThan(3.5);
  });

  it('goes through the simulated points where that is wanted, so that it is not drawn into what it lies on', () => {
    // Over the edge of a box, at a right angle, along a row of points.
    const folded = moved(flat, (x, _, z) => (x < 0 ? [x, 0, z] : [0, -x, z]));
    const inBox = (keepsPoints: boolean) => {
      const { positions } = finished(flat, folded, entry('subdivide', { times: 2, keepsPoints }));
      const away = folded.map((value, i) => Math.abs(positions[i]! - value));
      let deepest = 0;
      for (let i = 0; i < positions.length; i += 3) {
        deepest = Math.max(deepest, Math.min(-positions[i]!, -positions[i + 1]!));
      }
      return { away: Math.max(...away), deepest };
    };
    expect(inBox(false).away).toBeGreaterThan(0.004);
    expect(inBox(true).away).toBeLessThan(0.0003);
    expect(inBox(true).deepest).toBeLessThan(0.4 * inBox(false).deepest);
  });

  it('refuses what no machine can draw, and says so', () => {
    const large = sheet({ width: 4, height: 4, spacing: 0.01 });
    expect(() => new FinishList(large, [entry('subdivide', { times: 3 })])).toThrow(/million faces/);
  });
});

describe('smoothing', () => {
  const rough = moved(flat, (x, y, z) => [
    x,
    y + (Math.abs(Math.round(x / 0.05) + Math.round(z / 0.05)) % 2) * 0.01,
    z,
  ]);
  const roughness = (positions: Float32Array) => {
    const inside = [...Array(positions.length / 3).keys()].filter(
      (i) => Math.abs(flat.positions[i * 3]!) < 0.2 && Math.abs(flat.positions[i * 3 + 2]!) < 0.1,
    );
    const heights = inside.map((i) => positions[i * 3 + 1]!);
    return Math.max(...heights) - Math.min(...heights);
  };

  it('takes out what is as fine as the mesh, and leaves wide folds', () => {
    expect(roughness(finished(flat, rough, entry('smooth', { passes: 6 })).positions)).toBeLessThan(
      0.15 * roughness(rough),
    );
    const wide = moved(flat, (x, y, z) => [x, y + 0.03 * Math.sin((2 * Math.PI * x) / 0.6), z]);
    const after = finished(flat, wide, entry('smooth', { passes: 6 })).positions;
    expect(roughness(after)).toBeGreaterThan(0.93 * roughness(wide));
  });

  it('leaves borders, and what a mask keeps, to the bit', () => {
    const mask = new Float32Array(rough.length / 3).map((_, i) => (flat.positions[i * 3]! < 0 ? 0 : 1));
    const step = entry('smooth', {}, { mask: 'left' });
    const after = new FinishList(flat, [step]).place(rough, [step], () => mask);
    const t = topology(flat);
    for (let edge = 0; edge < t.edgeCount; edge++) {
      if (t.edgeFaces[edge * 2 + 1]! >= 0) continue;
      const at = t.edgePoints[edge * 2]! * 3 + 1;
      expect(after[at]).toBe(rough[at]);
    }
    let changed = 0;
    mask.forEach((share, i) => {
      if (share === 0) expect(after[i * 3 + 1]).toBe(rough[i * 3 + 1]);
      else if (after[i * 3 + 1] !== rough[i * 3 + 1]) changed++;
    });
    expect(changed).toBeGreaterThan(20);
  });
});

describe('relaxing', () => {
  it('gives edges their lengths back', () => {
    const stretched = moved(flat, (x, y, z) => [x * (1 + 0.08 * Math.sin(x * 20)), y, z]);
    const wrong = (positions: Float32Array) => {
      const t = topology(flat);
      const lengths = (p: Float32Array) =>
        [...Array(t.edgeCount).keys()].map((edge) => {
          const [a, b] = [t.edgePoints[edge * 2]! * 3, t.edgePoints[edge * 2 + 1]! * 3];
          return Math.hypot(p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!);
        });
      const cut = lengths(flat.positions);
      return Math.max(...lengths(positions).map((length, i) => Math.abs(length / cut[i]! - 1)));
    };
    const after = finished(flat, stretched, entry('relax', { passes: 60, keepsBorders: false })).positions;
    expect(wrong(after)).toBeLessThan(0.15 * wrong(stretched));
  });
});

describe('thickening', () => {
  const bent = moved(flat, (x, _, z) => [0.2 * Math.sin(x / 0.2), 0.2 * Math.cos(x / 0.2), z]);
  const area = faceAreas({ ...flat, positions: bent }).reduce((sum, one) => sum + one, 0);

  it.each(['centred', 'outwards', 'inwards'] as const)('has the volume of area times thickness, %s', (way) => {
    const thickness = 0.002;
    const done = finished(flat, bent, entry('thicken', { thickness, way }));
    expect(isClosed(topology(done))).toBe(true);
    expect(Math.abs(signedVolume(done) / (area * thickness) - 1)).toBeLessThan(0.02);
  });

  it('is open at the borders where no rim is wanted', () => {
    const t = topology(finished(flat, bent, entry('thicken', { rim: false })));
    expect(t.borderEdges).toBe(2 * topology(flat).borderEdges);
  });

  it('does not turn faces over on the inside of a fold that is tighter than it is thick', () => {
    // A strip around a bend of 4 mm radius, thickened inwards by 12 mm.
    const fine = sheet({ width: 0.06, height: 0.02, spacing: 0.002 });
    const fold = moved(fine, (x, _, z) => {
      const [r, half] = [0.004, (Math.PI * 0.004) / 2];
      if (x > half) return [r, -(x - half), z];
      if (x < -half) return [-r, -(-x - half), z];
      return [r * Math.sin(x / r), r * Math.cos(x / r), z];
    });
    const done = finished(fine, fold, entry('thicken', { thickness: 0.012, way: 'inwards', rim: false }));
    const inner = done.positions.subarray(fold.length);
    for (let i = 0; i < fold.length / 3; i++) {
      // On the bend, the inner side stays on its own side of the middle.
      if (fold[i * 3 + 1]! > 0.002 && Math.abs(fold[i * 3]!) > 1e-4)
        expect(Math.sign(inner[i * 3]!)).toBe(Math.sign(fold[i * 3]!));
    }
  });
});

describe('a finish list', () => {
  it('does its steps in order, and leaves out those that are off', () => {
    const steps = [entry('subdivide'), entry('thicken', { thickness: 0.01 })];
    const both = new FinishList(flat, steps);
    expect(both.mesh.triangles.length).toBeGreaterThan(flat.triangles.length * 8);
    const off = new FinishList(flat, [{ ...steps[0]!, on: false }, steps[1]!]);
    expect(off.mesh.positions.length).toBe(flat.positions.length * 2);
    expect(new FinishList(flat, []).mesh).toBe(flat);
  });

  it('is prepared anew only where faces change', () => {
    const [step] = [entry('thicken', { thickness: 0.01 })];
    const list = new FinishList(flat, [step]);
    const thinner = { ...step, step: { ...step.step, thickness: 0.002 } } as FinishEntry;
    expect(list.fits(flat, [thinner])).toBe(true);
    expect(list.fits(flat, [{ ...step, step: { ...step.step, rim: false } } as FinishEntry])).toBe(false);
    expect(list.place(flat.positions, [thinner], none)[1]).toBeCloseTo(0.001, 6);
  });

  it('takes a mask through steps that make more points', () => {
    const mask = new Float32Array(flat.positions.length / 3).map((_, i) => (flat.positions[i * 3]! < 0 ? 0 : 1));
    const steps = [entry('subdivide'), entry('thicken', { thickness: 0.01 }, { mask: 'right' })];
    const list = new FinishList(flat, steps);
    const places = list.place(flat.positions, steps, () => mask);
    for (let i = 0; i < places.length; i += 3) {
      if (places[i]! < -0.06) expect(places[i + 1]!).toBeCloseTo(0, 7);
      if (places[i]! > 0.06) expect(Math.abs(places[i + 1]!)).toBeCloseTo(0.005, 6);
    }
  });

  it.each(FINISH_KINDS)('%s never writes to what it is given', (kind) => {
    const before = flat.positions.slice();
    // Those that are about other things are about the cloth itself.
    const about = Object.keys(FINISH_STEPS[kind].things ?? {}).map((name) => [name, 'other']);
    const given = { start: flat.positions, meshes: new Map([['other', flat]]) };
    const list = new FinishList(flat, [entry(kind, Object.fromEntries(about) as object)], given);
    const place = list.place(before, [], none);
    expect(before).toEqual(flat.positions);
    expect(place.every(Number.isFinite)).toBe(true);
    expect(FINISH_STEPS[kind].help).not.toBe('');
  });
});

describe('laying the print elsewhere', () => {
  const at = (mesh: Mesh, i: number) => [mesh.material![i * 2]!, mesh.material![i * 2 + 1]!] as const;

  it('moves where each point is on the fabric, then turns it, and keeps lengths', () => {
    const done = finished(flat, flat.positions, entry('print', { along: 0.1, across: -0.05, turn: Math.PI / 2 }));
    expect(done.positions).toEqual(flat.positions);
    for (let i = 0; i < done.positions.length / 3; i++) {
      const [u, v] = at(flat, i);
      expect(at(done, i)).toEqual([expect.closeTo(v + 0.05, 6), expect.closeTo(0.1 - u, 6)]);
      const [from, to] = [at(flat, 0), at(done, 0)];
      const [u2, v2] = at(done, i);
      expect(Math.hypot(u2 - to[0], v2 - to[1])).toBeCloseTo(Math.hypot(u - from[0], v - from[1]), 5);
    }
  });

  it('is carried on by finer faces, and refused where there is no fabric', () => {
    const moved = finished(flat, flat.positions, entry('print', { along: 0.2 }), entry('subdivide'));
    const still = finished(flat, flat.positions, entry('subdivide'));
    for (let i = 0; i < still.positions.length / 3; i++) {
      expect(at(moved, i)).toEqual([expect.closeTo(at(still, i)[0] - 0.2, 6), expect.closeTo(at(still, i)[1], 6)]);
    }
    expect(() => finished(TETRAHEDRON, TETRAHEDRON.positions, entry('print'))).toThrow(/^Print: /);
  });
});
