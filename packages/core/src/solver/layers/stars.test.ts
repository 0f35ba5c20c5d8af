import * as Block from '@lumbra/kernel/layouts/layers/layerBlock';
import * as Star from '@lumbra/kernel/layouts/layers/star';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apart, dot, minus, type Vector3 } from '../../math/vector';
import type { Mesh } from '../../mesh/mesh';
import { nearestWeights } from '../../mesh/nearestPlace';
import { facesAround } from '../../mesh/pointLists';
import { sheet } from '../../mesh/shapes/sheet';
import { KernelMemory } from '../kernelMemory';
import { LayerContact } from './layerContact';
import { starKinds } from './stars';

const SPACING = 0.02;
const SAMPLES = 16;

/** How near features of the faces around each point are said to come, in m, where a cloth lies still at these places. */
function measuredStars(rest: Mesh, positions: Float32Array): number[] {
  const memory = new KernelMemory();
  const count = positions.length / 3;
  const array = () => memory.allocate((count + 1) * 16);
  const addresses = { points: array(), displacement: array(), residual: array(), start: array() };
  const values = memory.floats(addresses.points, count * 4);
  for (let i = 0; i < count; i++) for (let axis = 0; axis < 3; axis++) values[i * 4 + axis] = positions[i * 3 + axis]!;
  const sizes = { thickness: 0.001, farthest: 0.001, friction: 0.3 };
  const cloth = { rest, apart: null, firstPoint: 0, points: count, ...sizes };
  const meeting = { cloths: [{ id: 'cloth', touchesItself: true }], pairs: [] };
  const contact = new LayerContact(memory, [cloth], meeting, { ...addresses, count });
  contact.solve(0, () => undefined);
  const stars = memory.records(memory.records(contact.block, Block.BYTES).integer(0, Block.STARS), Star.BYTES, count);
  return Array.from({ length: count }, (_, point) => stars.float(point, Star.STILL));
}

const between = (a: Vector3, b: Vector3, share: number) =>
  a.map((x, k) => x + (b[k]! - x) * share) as unknown as Vector3;

function nearestOnSegment(place: Vector3, a: Vector3, b: Vector3): Vector3 {
  const side = minus(b, a);
  return between(a, b, Math.min(1, Math.max(0, dot(minus(place, a), side) / dot(side, side))));
}

/** The same by looking at all of them: points of one face against another, and places along the edges of both. */
function nearestInStar(mesh: Mesh, point: number): number {
  const { starts, entries } = facesAround(mesh);
  const faces = [...entries.subarray(starts[point], starts[point + 1])];
  const at = (i: number) => [...mesh.positions.subarray(i * 3, i * 3 + 3)] as unknown as Vector3;
  const cornersOf = (face: number) => [...mesh.triangles.subarray(face * 3, face * 3 + 3)];
  const edgesOf = (face: number) => cornersOf(face).map((a, n, all) => [a, all[(n + 1) % 3]!] as const);
  let nearest = Infinity;
  for (const s of faces) {
    for (const t of faces) {
      if (s === t) continue;
      const corners = cornersOf(t);
      for (const p of cornersOf(s).filter((corner) => !corners.includes(corner))) {
        const weights = nearestWeights(mesh, t, at(p));
        const place = [0, 1, 2].map((k) =>
          corners.reduce((sum, c, n) => sum + weights[n]! * at(c)[k]!, 0),
        ) as unknown as Vector3;
        nearest = Math.min(nearest, apart(at(p), place));
      }
      for (const [a, b] of edgesOf(s)) {
        for (const [c, d] of edgesOf(t)) {
          if (a === c || a === d || b === c || b === d) continue;
          for (let n = 0; n <= SAMPLES; n++) {
            const place = between(at(a), at(b), n / SAMPLES);
            nearest = Math.min(nearest, apart(place, nearestOnSegment(place, at(c), at(d))));
          }
        }
      }
    }
  }
  return nearest;
}

const rest = sheet({ width: 5 * SPACING, height: 5 * SPACING, spacing: SPACING });

describe('the faces around a point', () => {
  it('come no nearer to each other than it is said, however the cloth lies', () => {
    const noise = fc.array(fc.double({ min: -1, max: 1, noNaN: true }), {
      minLength: rest.positions.length,
      maxLength: rest.positions.length,
    });
    fc.assert(
      fc.property(noise, fc.double({ min: 0, max: 0.6, noNaN: true }), (noises, amount) => {
        const positions = rest.positions.map((x, i) => x + amount * SPACING * noises[i]!);
        measuredStars(rest, positions).forEach((said, point) => {
          if (said > 0) expect(nearestInStar({ ...rest, positions }, point)).toBeGreaterThanOrEqual(said);
        });
      }),
      { numRuns: 30, seed: 1 },
    );
  });

  it('are known where cloth lies flat or is rolled, and not in a sharp fold', () => {
    const flat = measuredStars(rest, rest.positions);
    // Half a square's diagonal is the height of its triangles.
    expect(Math.max(...flat)).toBeCloseTo(0.99 * Math.SQRT1_2 * SPACING, 6);
    expect(flat.filter((said) => said > 0).length).toBe(rest.positions.length / 3);
    const bend = (fold: (x: number) => [number, number]) =>
      rest.positions.map((_, i) => {
        const [x, y] = fold(rest.positions[i - (i % 3)]!);
        return [x, y, rest.positions[i]!][i % 3]!;
      });
    const radius = 3 * SPACING;
    const rolled = measuredStars(
      rest,
      bend((x) => [radius * Math.sin(x / radius), radius * Math.cos(x / radius)]),
    );
    expect(rolled.filter((said) => said > 0.5 * SPACING).length).toBeGreaterThan(20);
    const folded = measuredStars(
      rest,
      bend((x) => [Math.abs(x - SPACING / 2), x > SPACING / 2 ? 0.0005 : 0]),
    );
    expect(folded.filter((said) => said < 0.05 * SPACING)).toHaveLength(6);
  });

  it('are never sure where an edge has three faces', () => {
    const positions = new Float32Array([0, 0, 0, 0, 0, 1, 1, 0, 0, -1, 0, 0, 1, 0.3, 0]);
    const fin: Mesh = { positions, triangles: new Uint32Array([0, 1, 2, 1, 0, 3, 0, 1, 4]) };
    expect([...starKinds(fin)]).toEqual([0, 0, 0, 0, 0].map(() => Star.KIND_OTHER));
    expect([...starKinds(rest)]).toContain(Star.KIND_INSIDE);
    expect([...starKinds(rest)]).toContain(Star.KIND_BORDER);
  });
});
