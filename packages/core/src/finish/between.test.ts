import { describe, expect, it } from 'vitest';
import type { Mesh } from '../mesh/mesh';
import { topology } from '../mesh/topology';
import { sheet } from '../mesh/shapes/sheet';
import { between, type FramesAround } from './between';

const mesh = sheet({ width: 0.6, height: 0.4, spacing: 0.05 });

/** The sheet, turned by an angle about its left border and bent round a cylinder of a curvature in 1/m. */
function turned(angle: number, curvature = 0): Float32Array {
  const out = mesh.positions.slice();
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  for (let i = 0; i < out.length; i += 3) {
    const along = out[i]! + 0.3;
    const [x, y] =
      curvature === 0
        ? [along, 0]
        : [Math.sin(along * curvature) / curvature, (1 - Math.cos(along * curvature)) / curvature];
    out[i] = c * x - s * y;
    out[i + 1] = s * x + c * y;
  }
  return out;
}

/** By how much edges are longer or shorter than they are at both frames, at worst. */
function worstLength(of: Mesh, found: Float32Array, [, from, to]: FramesAround): number {
  const { edgePoints, edgeCount } = topology(of);
  const length = (p: Float32Array, edge: number) => {
    const [a, b] = [edgePoints[edge * 2]! * 3, edgePoints[edge * 2 + 1]! * 3];
    return Math.hypot(...[0, 1, 2].map((axis) => p[a + axis]! - p[b + axis]!));
  };
  return Math.max(
    ...Array.from({ length: edgeCount }, (_, edge) => {
      const [early, late, now] = [from, to, found].map((p) => length(p, edge)) as [number, number, number];
      return Math.max(now / Math.max(early, late) - 1, 1 - now / Math.min(early, late));
    }),
  );
}

describe('cloth between two frames', () => {
  it.each([
    [10, 0],
    [40, 0],
    [25, 2],
  ])('keeps its lengths while it turns by %s degrees a frame and curls', (degrees, curl) => {
    const angle = (degrees * Math.PI) / 180;
    const around = [-1, 0, 1, 2].map((n) => turned(n * angle, 1 + n * curl)) as unknown as FramesAround;
    for (const share of [0.2, 0.5, 0.9])
      expect(worstLength(mesh, between(mesh, around, share), around)).toBeLessThan(0.003);
  });

  it('goes the way that the motion goes, without a kink at the frames', () => {
    const angle = 0.2;
    const frames = [-1, 0, 1, 2, 3].map((n) => turned(n * angle));
    const at = (n: number, share: number) => between(mesh, frames.slice(n, n + 4) as unknown as FramesAround, share);
    const half = at(0, 0.5);
    const wanted = turned(angle / 2);
    for (let i = 0; i < half.length; i++) expect(Math.abs(half[i]! - wanted[i]!)).toBeLessThan(1e-3);
    const h = 0.01;
    const speed = (late: Float32Array, early: Float32Array, i: number) => (late[i]! - early[i]!) / h;
    const middle = frames[2]!;
    const [before, after] = [at(0, 1 - h), at(1, h)];
    for (let i = 0; i < middle.length; i++)
      expect(Math.abs(speed(middle, before, i) - speed(after, middle, i))).toBeLessThan(0.01);
  });

  it('does not go on where it comes to rest', () => {
    const lower = (y: number) => mesh.positions.map((value, i) => (i % 3 === 1 ? y : value));
    const around: FramesAround = [lower(0.2), lower(0.1), lower(0), lower(0)];
    const after: FramesAround = [lower(0.1), lower(0), lower(0), lower(0)];
    for (const share of [0.1, 0.5, 0.9]) {
      for (const one of [around, after])
        expect(Math.min(...between(mesh, one, share).filter((_, i) => i % 3 === 1))).toBeGreaterThan(-1e-7);
    }
  });

  it('is made at the ends of a take, and of a take of two frames', () => {
    const [a, b] = [turned(0), turned(0.1)];
    const found = between(mesh, [null, a, b, null], 0.5);
    expect(worstLength(mesh, found, [null, a, b, null])).toBeLessThan(0.003);
    expect(found.every(Number.isFinite)).toBe(true);
  });

  it('opens no seam', () => {
    // Two strips that lie together along a border, sewn there.
    const half = sheet({ width: 0.3, height: 0.4, spacing: 0.05 });
    const count = half.positions.length / 3;
    const both = (of: (p: Float32Array, right: boolean) => Float32Array) =>
      Float32Array.from([...of(half.positions, false), ...of(half.positions, true)]);
    const positions = both((p, right) =>
      p.map((value, i) => (i % 3 === 0 ? (right ? 0.15 - value : value - 0.15) : value)),
    );
    const sewn = Uint32Array.from({ length: 2 * count }, (_, point) =>
      point >= count && Math.abs(positions[point * 3]!) < 1e-6 ? point - count : point,
    );
    const seam = [...sewn.keys()].filter((point) => sewn[point] !== point);
    expect(seam.length).toBeGreaterThan(5);
    const triangles = Uint32Array.from([...half.triangles, ...half.triangles.map((point) => point + count)]);
    const pair: Mesh = { positions, triangles, sewn };
    // The left one flaps up, the right one turns down.
    const at = (n: number) => {
      const out = positions.slice();
      for (let point = 0; point < 2 * count; point++) {
        const along = positions[point * 3]!;
        const angle = (along < 0 ? -0.5 : -0.8) * n * Math.sign(along);
        out[point * 3] = along * Math.cos(angle);
        out[point * 3 + 1] = along * Math.sin(angle);
      }
      for (const point of seam)
        for (let axis = 0; axis < 3; axis++) out[point * 3 + axis] = out[sewn[point]! * 3 + axis]!;
      return out;
    };
    const found = between(pair, [at(-1), at(0), at(1), at(2)], 0.5);
    for (const point of seam) {
      for (let axis = 0; axis < 3; axis++) expect(found[point * 3 + axis]).toBe(found[sewn[point]! * 3 + axis]);
    }
  });
});
