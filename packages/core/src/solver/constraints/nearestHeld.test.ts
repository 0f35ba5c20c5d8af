import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import type { Mesh } from '../../mesh/mesh';
import { sheet } from '../../mesh/shapes/sheet';
import { topology } from '../../mesh/topology';
import { nearestHeld } from './nearestHeld';

const MOST = 3;
const fabric = fabricSchema.parse({ weight: 0.2 });
const square = sheet({ width: 0.3, height: 0.3, spacing: 0.03 });
/** With a hole in its middle, so that straight ways leave it. */
const frame: Mesh = {
  ...square,
  triangles: square.triangles.filter((_, i, all) => {
    const face = Math.floor(i / 3) * 3;
    return [0, 1, 2].some((corner) => {
      const [u, v] = [0, 1].map((axis) => square.material![all[face + corner]! * 2 + axis]!) as [number, number];
      return Math.max(Math.abs(u - middle(0)), Math.abs(v - middle(1))) > 0.08;
    });
  }),
};

function middle(axis: number): number {
  const all = square.material!.filter((_, i) => i % 2 === axis);
  return (Math.min(...all) + Math.max(...all)) / 2;
}

/** How far each point is from a group along edges: looked at again and again until nothing gets nearer. */
function alongEdges(mesh: Mesh, group: readonly number[]): number[] {
  const { edgePoints } = topology(mesh);
  const far = Array.from({ length: mesh.positions.length / 3 }, (_, i) => (group.includes(i) ? 0 : Infinity));
  for (let changed = true; changed;) {
    changed = false;
    for (let i = 0; i < edgePoints.length; i += 2) {
      const [a, b] = [edgePoints[i]!, edgePoints[i + 1]!];
      const length = Math.hypot(
        ...[0, 1, 2].map((axis) => mesh.positions[a * 3 + axis]! - mesh.positions[b * 3 + axis]!),
      );
      for (const [from, to] of [
        [a, b],
        [b, a],
      ] as const) {
        if (far[from]! + length >= far[to]! - 1e-12) continue;
        far[to] = far[from]! + length;
        changed = true;
      }
    }
  }
  return far;
}

function straight(mesh: Mesh, group: readonly number[]): number[] {
  const at = (point: number) => [mesh.material![point * 2]!, mesh.material![point * 2 + 1]!] as const;
  return Array.from({ length: mesh.positions.length / 3 }, (_, point) =>
    Math.min(...group.map((pin) => Math.hypot(at(point)[0] - at(pin)[0], at(point)[1] - at(pin)[1]))),
  );
}

const groupsOf = (count: number) =>
  fc
    .uniqueArray(fc.integer({ min: 0, max: count - 1 }), { minLength: 1, maxLength: 12 })
    .map((points) => points.flatMap((point, i) => (i % 2 === 0 ? [points.slice(i, i + 2)] : [])));

describe('the nearest groups of held points', () => {
  it.each([
    ['straight, in cloth without hollows', square, straight],
    ['along edges, around a hole', frame, alongEdges],
  ] as const)('are as far as looking at each by itself says, %s', (_, mesh, distancesOf) => {
    const used = new Set(mesh.triangles);
    fc.assert(
      fc.property(groupsOf(mesh.positions.length / 3), (groups) => {
        const found = nearestHeld(mesh, fabric, groups, MOST);
        const far = groups.map((group) => distancesOf(mesh, group));
        for (const point of used) {
          const wanted = far
            .map((distances) => distances[point]!)
            .filter(Number.isFinite)
            .sort((a, b) => a - b)
            .slice(0, MOST);
          expect(found.counts[point]).toBe(wanted.length);
          wanted.forEach((distance, i) => {
            const at = point * MOST + i;
            expect(found.distances[at]).toBeCloseTo(distance, 9);
            const group = groups[found.groups[at]!]!;
            expect(group).toContain(found.points[at]);
            expect(far[found.groups[at]!]![point]).toBeCloseTo(distance, 9);
          });
        }
      }),
      { numRuns: 30 },
    );
  });
});
