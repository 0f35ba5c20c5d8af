import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bounds, size } from './bounds';
import { boxTree } from './boxTree';
import type { Mesh } from './mesh';
import { meshProblem, pointCount } from './mesh';
import { pointNormals } from './normals';
import { offsetMesh } from './offsetMesh';
import { place } from './place';
import { ball } from './shapes/ball';
import { box } from './shapes/box';
import { cylinder } from './shapes/cylinder';
import { ground } from './shapes/ground';
import { ring } from './shapes/ring';
import { sheet, sheetGrid } from './shapes/sheet';
import { borderLoops, isClosed, topology } from './topology';
import { weld } from './weld';

const solids: [string, Mesh][] = [
  ['box', box({ size: [1, 2, 3] })],
  ['ball', ball({ radius: 1, detail: 3 })],
  ['cylinder', cylinder({ radius: 0.5, height: 2, segments: 24 })],
  ['ring', ring({ radius: 1, tubeRadius: 0.2, segments: 40 })],
  ['ground', ground()],
];

/** Six times the volume inside a closed mesh: positive when its faces look outwards. */
function volume({ positions: p, triangles: t }: Mesh): number {
  let sum = 0;
  for (let i = 0; i < t.length; i += 3) {
    const [a, b, c] = [t[i]! * 3, t[i + 1]! * 3, t[i + 2]! * 3];
    sum +=
      p[a]! * (p[b + 1]! * p[c + 2]! - p[b + 2]! * p[c + 1]!) +
      p[a + 1]! * (p[b + 2]! * p[c]! - p[b]! * p[c + 2]!) +
      p[a + 2]! * (p[b]! * p[c + 1]! - p[b + 1]! * p[c]!);
  }
  return sum / 6;
}

describe('shapes', () => {
  it.each(solids)('a %s is closed and looks outwards', (_, mesh) => {
    expect(meshProblem(mesh)).toBeUndefined();
    expect(isClosed(topology(mesh))).toBe(true);
    expect(volume(mesh)).toBeGreaterThan(0);
  });

  it('have the volume that geometry says', () => {
    expect(volume(box({ size: [1, 2, 3] }))).toBeCloseTo(6, 5);
    expect(volume(ball({ radius: 1, detail: 5 })) / ((4 / 3) * Math.PI)).toBeCloseTo(1, 2);
    expect(volume(cylinder({ radius: 1, height: 1, segments: 128 })) / Math.PI).toBeCloseTo(1, 2);
    expect(volume(ring({ radius: 1, tubeRadius: 0.2, segments: 128 })) / (2 * Math.PI ** 2 * 0.04)).toBeCloseTo(1, 1);
  });

  it('a ball has no poles: its points are evenly spread', () => {
    const t = topology(ball({ radius: 1, detail: 3 }));
    const { positions } = ball({ radius: 1, detail: 3 });
    const lengths = Array.from({ length: t.edgeCount }, (_, e) => {
      const [a, b] = [t.edgePoints[e * 2]! * 3, t.edgePoints[e * 2 + 1]! * 3];
      return Math.hypot(
        positions[a]! - positions[b]!,
        positions[a + 1]! - positions[b + 1]!,
        positions[a + 2]! - positions[b + 2]!,
      );
    });
    expect(Math.max(...lengths) / Math.min(...lengths)).toBeLessThan(1.4);
  });

  it('a sheet of any size has one border, flat area and the grid it says', () => {
    const side = fc.double({ min: 0.1, max: 3, noNaN: true });
    fc.assert(
      fc.property(side, side, fc.double({ min: 0.03, max: 0.1, noNaN: true }), (width, height, spacing) => {
        const mesh = sheet({ width, height, spacing });
        const { columns, rows } = sheetGrid({ width, height, spacing });
        expect(pointCount(mesh)).toBe(columns * rows);
        const loops = borderLoops(topology(mesh));
        expect(loops).toHaveLength(1);
        expect(loops[0]).toHaveLength(2 * (columns + rows) - 4);
        const [x, y, z] = size(bounds(mesh.positions)!);
        expect(x).toBeCloseTo(width, 5);
        expect(y).toBe(0);
        expect(z).toBeCloseTo(height, 5);
        expect(Math.min(...pointNormals(mesh.positions, mesh.triangles).filter((_, i) => i % 3 === 1))).toBeCloseTo(
          1,
          5,
        );
      }),
      { numRuns: 30 },
    );
  });
});

describe('topology', () => {
  it('counts crowded edges, borders and faces that disagree', () => {
    const fan: Mesh = {
      positions: new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 1]),
      triangles: new Uint32Array([0, 1, 2, 1, 0, 3, 0, 1, 4]),
    };
    const t = topology(fan);
    expect(t.nonManifoldEdges).toBe(1);
    expect(t.borderEdges).toBe(6);
    expect(topology({ ...fan, triangles: new Uint32Array([0, 1, 2, 0, 1, 3]) }).flippedEdges).toBe(1);
  });
});

describe('weld', () => {
  it('joins what a split mesh had apart, and nothing else', () => {
    for (const [, mesh] of solids) {
      const split: Mesh = {
        positions: new Float32Array(
          [...mesh.triangles].flatMap((point) => [...mesh.positions.subarray(point * 3, point * 3 + 3)]),
        ),
        triangles: Uint32Array.from(mesh.triangles, (_, i) => i),
      };
      const welded = weld(split, { tolerance: 1e-5 }).mesh;
      expect(pointCount(welded)).toBe(pointCount(mesh));
      expect(isClosed(topology(welded))).toBe(true);
    }
  });
});

describe('place', () => {
  it('keeps all distances', () => {
    const angle = fc.double({ min: -7, max: 7, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(angle, angle, angle), (rotation) => {
        const mesh = box({ size: [1, 2, 3] });
        const placed = place(mesh, { position: [1, -2, 0.5], rotation });
        const between = ({ positions: p }: Mesh) => Math.hypot(p[0]! - p[21]!, p[1]! - p[22]!, p[2]! - p[23]!);
        expect(between(placed)).toBeCloseTo(between(mesh), 5);
        expect(volume(place(mesh, { position: [0, 0, 0], rotation }))).toBeCloseTo(6, 4);
      }),
    );
  });
});

describe('offset', () => {
  it('moves every face of a box out by as much', () => {
    const { low, high } = bounds(offsetMesh(box({ size: [1, 2, 3] }), 0.01).positions)!;
    [0.51, 1.01, 1.51].forEach((half, axis) => {
      expect(high[axis]).toBeCloseTo(half, 6);
      expect(low[axis]).toBeCloseTo(-half, 6);
    });
  });

  it('makes a ball larger or smaller', () => {
    for (const distance of [0.1, -0.1]) {
      const { positions } = offsetMesh(ball({ radius: 0.5, detail: 2 }), distance);
      for (let i = 0; i < positions.length; i += 3)
        expect(Math.hypot(positions[i]!, positions[i + 1]!, positions[i + 2]!)).toBeCloseTo(0.5 + distance, 2);
    }
  });
});

describe('box tree', () => {
  it('holds every face once, inside its boxes', () => {
    const mesh = ring({ radius: 1, tubeRadius: 0.2, segments: 30 });
    const tree = boxTree(mesh);
    expect([...tree.faces].sort((a, b) => a - b)).toEqual([...Array(mesh.triangles.length / 3).keys()]);
    for (let node = 0; node < tree.nodeCount; node++) {
      for (let i = 0; i < tree.count[node]!; i++) {
        const face = tree.faces[tree.first[node]! + i]!;
        for (let corner = 0; corner < 3; corner++) {
          const point = mesh.triangles[face * 3 + corner]!;
          for (let axis = 0; axis < 3; axis++) {
            const value = mesh.positions[point * 3 + axis]!;
            expect(value).toBeGreaterThanOrEqual(tree.boxes[node * 6 + axis]!);
            expect(value).toBeLessThanOrEqual(tree.boxes[node * 6 + 3 + axis]!);
          }
        }
      }
    }
  });
});
