import { describe, expect, it } from 'vitest';
import { ball } from '../../mesh/shapes/ball';
import { cone } from '../../mesh/shapes/cone';
import { sheet } from '../../mesh/shapes/sheet';
import { sideNormals } from '../../mesh/sideNormals';
import { topology } from '../../mesh/topology';
import type { Mesh } from '../../mesh/mesh';
import { compile } from '../../run/compile';
import { createCloth, createCollider, createShot } from '../../shot/create';
import type { Shape } from '../../shot/shapes';
import { exactSurface } from './exactSurface';
import { sharpFeatures } from './sharpFeatures';
import { fabricSchema } from '../../fabric/fabric';
import { rotation } from '../../math/vector';
import type { ColliderModel } from '../model';
import { Solver } from '../solver';

/** A cube as a mesh, each side of two triangles. */
function cube(side: number): Mesh {
  const h = side / 2;
  const positions = Float32Array.from(
    [0, 1, 2, 3, 4, 5, 6, 7].flatMap((i) => [i & 1, (i >> 1) & 1, i >> 2]),
    (v) => (v ? h : -h),
  );
  const quads = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  const triangles = Uint32Array.from(quads.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!]));
  return { positions, triangles };
}

const featuresOf = (mesh: Mesh, spacing: number, bothSides = false) =>
  sharpFeatures(mesh, topology(mesh), sideNormals(mesh, topology(mesh)), spacing, bothSides);

describe('sharp features', () => {
  it('are the edges and corners of a cube, each corner tried once, and not the diagonals of its sides', () => {
    const found = featuresOf(cube(1), 0.02);
    expect(found.filter(({ edge }) => edge >= 0)).toHaveLength(12);
    expect(found.flatMap(({ tried }) => tried).filter(Boolean)).toHaveLength(8);
  });

  it('are none on a ball that is smooth for the cloth, and all of it on one that is small for it', () => {
    const round = ball({ radius: 0.3, detail: 4 });
    expect(featuresOf(round, 0.02)).toHaveLength(0);
    const bead = ball({ radius: 0.004, detail: 3 });
    expect(featuresOf(bead, 0.03).length).toBeGreaterThan(topology(bead).edgeCount / 2);
  });

  it('are the tip and the rim of a cone, though its sides are smooth', () => {
    const mesh = cone({ radius: 0.25, topRadius: 0, height: 0.5, segments: 60 });
    const tip = [...Array(mesh.positions.length / 3).keys()].reduce((top, point) =>
      mesh.positions[point * 3 + 1]! > mesh.positions[top * 3 + 1]! ? point : top,
    );
    const tried = featuresOf(mesh, 0.02).flatMap(({ ends, tried }) => ends.filter((_, i) => tried[i]));
    expect(tried).toContain(tip);
  });
});

/** The most faces of a sheet that pass through a thing in any of 30 frames after it has fallen on it. */
function mostPierced(shape: Shape, { height, turned = 0, mesh }: { height: number; turned?: number; mesh?: Mesh }) {
  const shot = createShot({
    name: 'Sharp',
    things: [
      createCloth({
        ...{ id: 'sheet', name: 'Sheet', card: 'cotton-poplin', position: [0.007, height, 0.004] },
        shape: { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.03 },
      }),
      createCollider({ ...{ id: 'thing', name: 'Thing', shape }, rotation: [turned, 0, turned] }),
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' }, position: [0, -0.3, 0] }),
    ],
  });
  const solver = new Solver(compile(shot, new Map(mesh ? [['mesh', mesh]] : [])));
  const pierced = () => Math.max(...solver.contact().pierced.map(({ count }) => count));
  const start = pierced();
  let most = 0;
  for (let frame = 0; frame < 30; frame++) {
    solver.advance(1 / 24, 40);
    most = Math.max(most, pierced());
  }
  return {
    start,
    last: pierced(),
    most,
    lowest: solver.positions(0).reduce((low, v, i) => (i % 3 === 1 ? Math.min(low, v) : low), 1),
  };
}

describe('a sheet that falls on what is sharp', () => {
  it.each<[string, Shape, Parameters<typeof mostPierced>[1]]>([
    ['a cone', { kind: 'cone', radius: 0.1, topRadius: 0, height: 0.2, segments: 40 }, { height: 0.25 }],
    ['a spike', { kind: 'cone', radius: 0.01, topRadius: 0, height: 0.2, segments: 12 }, { height: 0.25 }],
    ['a rod', { kind: 'cone', radius: 0.005, topRadius: 0.004, height: 0.2, segments: 8 }, { height: 0.25 }],
    ['a cube on its corner', { kind: 'mesh', asset: 'mesh' }, { height: 0.2, turned: 0.7, mesh: cube(0.15) }],
    ['a bead', { kind: 'mesh', asset: 'mesh' }, { height: 0.05, mesh: ball({ radius: 0.005, detail: 2 }) }],
  ])('is held by %s and never pierced', (_, shape, how) => {
    const { most, lowest } = mostPierced(shape, how);
    expect(most).toBe(0);
    // It hangs on the thing, and has not slid off or been thrown away.
    expect(lowest).toBeGreaterThan(-0.31);
  });

  // A hundredth of an edge of 40 cm is more than its point is kept off: of each edge that goes over the rim the corner came through.
  it('is held where it is coarse and its points lie right over the edges of a box', () => {
    const shot = createShot({
      name: 'Coarse',
      things: [
        createCloth({
          ...{ id: 'sheet', name: 'Sheet', card: 'canvas', position: [0, 2.5, 0] },
          shape: { kind: 'sheet', width: 12, height: 12, spacing: 0.4 },
        }),
        createCollider({
          ...{ id: 'box', name: 'Box', shape: { kind: 'box', width: 6, height: 2, depth: 4 }, position: [0, 1, 0] },
        }),
      ],
    });
    const solver = new Solver(compile(shot, new Map()));
    for (let frame = 0; frame < 15; frame++) {
      solver.advance(1 / 24, 64);
      const { pierced, depths } = solver.contact();
      expect([pierced[0]!.count, Math.max(0, ...depths.map(({ depth }) => depth)) < 1e-3]).toEqual([0, true]);
    }
  });

  it('is counted where it starts pierced, and freed from a closed thing', () => {
    const shape: Shape = { kind: 'cone', radius: 0.1, topRadius: 0, height: 0.2, segments: 40 };
    const { start, last } = mostPierced(shape, { height: 0.05 });
    expect(start).toBeGreaterThan(3);
    expect(last).toBe(0);
  });
});

describe('a surface with more sharp features than there is room for at first', () => {
  it('holds cloth in the substep in which it gets more', () => {
    const size = { width: 0.4, height: 0.4, spacing: 0.01 };
    const isTip = (point: number) => ((point % 41) + ((point / 41) | 0)) % 2 === 0;
    const rough = sheet(size);
    rough.positions.forEach((_, i) => i % 3 === 1 && !isTip((i - 1) / 3) && (rough.positions[i] = -0.005));
    const fabric = fabricSchema.parse({ thickness: 0.001 });
    const rest = sheet(size);
    const positions = rest.positions.map((value, i) => (i % 3 === 1 ? 0.0026 : value));
    const collider = { id: 'rough', kind: 'mesh' as const, mesh: rough, clearance: 0.002, friction: 0.4 };
    const solver = new Solver({
      cloths: [{ id: 'cloth', rest, positions, held: [], fabric }],
      colliders: [{ ...collider, center: [0, 0, 0], rotation: [1, 0, 0, 0, 1, 0, 0, 0, 1], side: 'outside' }],
      air: { gravity: [0, -9.81, 0], density: 0, windAt: () => [0, 0, 0] },
    });
    solver.advance(0.01, 1);
    const tips = [...solver.positions(0)].filter((_, i) => i % 3 === 1 && isTip((i - 1) / 3));
    // Without contact it falls by 0.98 mm.
    expect(Math.min(...tips)).toBeGreaterThan(0.00245);
  });
});

describe('the surface of an exact body', () => {
  const placed = { center: [0, 0, 0], rotation: rotation([0, 0, 0]), clearance: 0.002, friction: 0.5 } as const;
  it.each([0.0005, 0.001, 0.004, 0.008, 0.02, 0.05, 0.3, 2])(
    'of %f m radius lies just below it, and is no finer than it has to be',
    (radius) => {
      const below = Math.max(1e-4, 0.005 * radius);
      const bodies = [
        { ...placed, id: 'a', kind: 'cylinder' as const, radius, height: 0.2 + 2 * radius },
        { ...placed, id: 'b', kind: 'capsule' as const, radius, height: 0.2 + 2 * radius },
        { ...placed, id: 'c', kind: 'ball' as const, radius },
      ] as unknown as ColliderModel[];
      for (const body of bodies) {
        const { positions, triangles } = exactSurface(body)!;
        for (let face = 0; face < triangles.length; face += 3) {
          const middle = [0, 1, 2].map(
            (axis) => [0, 1, 2].reduce((sum, corner) => sum + positions[triangles[face + corner]! * 3 + axis]!, 0) / 3,
          );
          // Over the straight part of a body only its sides are round, and the flat ends of a cylinder are not.
          const beyond = body.kind === 'capsule' ? Math.max(0, Math.abs(middle[1]!) - 0.1) : 0;
          if (body.kind === 'cylinder' && Math.abs(middle[1]!) > 0.1 + radius - 1e-6) continue;
          const depth = radius - Math.hypot(middle[0]!, body.kind === 'ball' ? middle[1]! : beyond, middle[2]!);
          expect(depth).toBeGreaterThan(-1e-7);
          // The ends of a capsule are round both ways.
          expect(depth).toBeLessThan(below * (beyond > 0 ? 1.8 : 1.02));
        }
      }
      if (radius < 0.01) expect(exactSurface(bodies[0]!)!.triangles.length / 3).toBeLessThan(100);
    },
  );
});
