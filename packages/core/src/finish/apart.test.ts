import { describe, expect, it } from 'vitest';
import { clearNormals } from '../mesh/clearNormals';
import { crossings } from '../mesh/crossings';
import { faceNormals } from '../mesh/faceNormals';
import type { Mesh } from '../mesh/mesh';
import { pointNormals } from '../mesh/normals';
import { sheet } from '../mesh/shapes/sheet';
import { signedVolume } from '../mesh/volume';
import { FinishList } from './finishCloth';
import { finishEntrySchema, type FinishEntry, type FinishKind } from './steps';

// Cloth that lies on itself is finished without going through itself.

const count = (mesh: Pick<Mesh, 'positions' | 'triangles'>) => {
  let sum = 0;
  crossings(mesh, () => sum++);
  return sum;
};

function finished(mesh: Mesh, positions: Float32Array, ...steps: [FinishKind, object][]): Mesh {
  const entries: FinishEntry[] = steps.map(([kind, numbers], i) =>
    finishEntrySchema.parse({ id: `s${i}`, step: { kind, ...numbers } }),
  );
  const list = new FinishList(mesh, entries);
  return { ...list.mesh, positions: list.place(positions, entries, () => null) };
}

const strip = sheet({ width: 0.6, height: 0.1, spacing: 0.02 });

/** The strip folded in pleats that lie so far apart, in m. */
function pleated(gap: number, length = 0.1): Float32Array {
  const out = strip.positions.slice();
  for (let i = 0; i < out.length; i += 3) {
    const along = strip.positions[i]! + 0.3;
    const [pleat, way] = [Math.floor(along / length), along % length];
    // A little unevenly, as cloth lies.
    out.set(
      [pleat % 2 === 0 ? way : length - way, pleat * gap + 0.3 * gap * (way / length), out[i + 2]! + 0.003 * pleat],
      i,
    );
  }
  return out;
}

describe('crossings', () => {
  it('are the sides that go through faces, and not what only touches', () => {
    const crossed: Mesh = {
      positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 0, 1, 0.2, -1, 0.2, 0.2, 1, 0.2, 3, 1, 0.2),
      triangles: Uint32Array.of(0, 1, 2, 3, 4, 5),
    };
    const found: number[][] = [];
    crossings(crossed, (...one) => found.push(one));
    expect(found).toContainEqual([3, 4, 0]);
    expect(
      count({
        ...crossed,
        positions: crossed.positions.map((value, i) => (i >= 9 && i % 3 === 1 ? value + 2 : value)),
      }),
    ).toBe(0);
    // A corner that lies in a corner.
    const touching = crossed.positions.slice();
    touching.set([0, 0, 0], 9);
    expect(count({ ...crossed, positions: touching })).toBe(0);
  });
});

describe('normals of sharp folds', () => {
  it('stand off all faces where that can be, else they are nothing', () => {
    // Three faces lean to one side and one to the other: their mean lies behind that one.
    const [s, c] = [Math.sqrt(3) / 2, 0.5];
    const fold: Mesh = {
      positions: Float32Array.of(0, 0, 0, 0, 0, 1, c, -s, 0, c, s, 0),
      triangles: Uint32Array.of(0, 1, 2, 0, 1, 2, 0, 1, 2, 0, 1, 3),
    };
    const faces = faceNormals(fold);
    const least = (normals: Float32Array) =>
      Math.min(
        ...[0, 1, 2, 3].map((face) =>
          [0, 1, 2].reduce((sum, axis) => sum + normals[axis]! * faces[face * 3 + axis]!, 0),
        ),
      );
    expect(least(pointNormals(fold.positions, fold.triangles))).toBeLessThan(0);
    const { normals, sharp } = clearNormals(fold);
    expect(least(normals)).toBeGreaterThan(0.3);
    expect(Math.hypot(...normals.subarray(0, 3))).toBeCloseTo(1, 6);
    expect(sharp[0]).toBe(1);
    // Two faces one upon the other: there is no way off both.
    const shut: Mesh = {
      positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 0, 1),
      triangles: Uint32Array.of(0, 2, 1, 0, 1, 2),
    };
    expect([...clearNormals(shut).normals].every((value) => value === 0)).toBe(true);
    expect([...clearNormals(shut).sharp]).toEqual([1, 1, 1]);
  });
});

describe('cloth that lies on itself', () => {
  it.each(['centred', 'outwards', 'inwards'] as const)(
    'is thickened by as much as there is between its layers, %s',
    (way) => {
      const lying = pleated(0.001);
      expect(count({ ...strip, positions: lying })).toBe(0);
      const thick = finished(strip, lying, ['thicken', { thickness: 0.004, way }]);
      expect(count(thick)).toBe(0);
      const apart = finished(strip, pleated(0.02), ['thicken', { thickness: 0.004, way }]);
      expect(count(apart)).toBe(0);
      // Where there is room it is as thick as it is told.
      expect(signedVolume(apart) / (0.06 * 0.004)).toBeGreaterThan(0.75);
      expect(signedVolume(thick)).toBeLessThan(signedVolume(apart) / 2);
      expect(signedVolume(thick)).toBeGreaterThan(0);
    },
  );

  it('is subdivided without going through itself, and rounder where nothing is near', () => {
    // Two hollows back to back: between their points the round surfaces reach further than the flat faces.
    const lower = strip.positions.map((value, i) => {
      const along = strip.positions[i - (i % 3)]! + 0.01;
      return i % 3 === 1 ? -(along ** 2) / 0.06 : value;
    });
    const upper = lower.map((value, i) => [value, -value - 0.0028, value + 0.003][i % 3]!);
    const points = strip.positions.length / 3;
    const two: Mesh = {
      positions: Float32Array.from([...lower, ...upper]),
      triangles: Uint32Array.from([...strip.triangles, ...strip.triangles.map((point) => point + points)]),
    };
    expect(count(two)).toBe(0);
    const through = finished(two, two.positions, ['subdivide', { times: 2, keepsApart: false }]);
    const kept = finished(two, two.positions, ['subdivide', { times: 2 }]);
    expect(count(through)).toBeGreaterThan(0);
    expect(count(kept)).toBe(0);
    const alone = strip.positions.map((value, i) =>
      i % 3 === 1 ? 0.05 * Math.sin(20 * strip.positions[i - 1]!) : value,
    );
    expect(finished(strip, alone, ['subdivide', {}]).positions).toEqual(
      finished(strip, alone, ['subdivide', { keepsApart: false }]).positions,
    );
    const both = finished(two, two.positions, ['subdivide', {}], ['thicken', { thickness: 0.003 }]);
    expect(count(both)).toBe(0);
  });
});
