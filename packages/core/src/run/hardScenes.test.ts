import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../fabric/fabric';
import { rotation } from '../math/vector';
import type { Mesh } from '../mesh/mesh';
import { place } from '../mesh/place';
import { sheet } from '../mesh/shapes/sheet';
import { createCloth, createCollider, createShot } from '../shot/create';
import type { Thing } from '../shot/schema';
import { Solver } from '../solver/solver';
import { BakeRun } from './bakeRun';

// What nobody means to make, and somebody will: it ends, stays finite, and says what it could not keep.

function baked(things: Thing[], assets: Map<string, Mesh>, frames: number) {
  const run = new BakeRun(createShot({ id: 's', name: 'Hard', lastFrame: frames, things } as never), assets);
  return Array.from({ length: frames }, () => run.next());
}

const sheetAt = (height: number, spacing: number) =>
  createCloth({
    ...{ id: 'sheet', name: 'Sheet', card: 'linen-mid', position: [0.004, height, 0.003] },
    shape: { kind: 'sheet', width: 0.3, height: 0.3, spacing },
  });

/** Thin spikes side by side, pointing up from y = 0, each a pyramid of its own. */
function needles(across: number, width: number, height: number): Mesh {
  const positions: number[] = [];
  const triangles: number[] = [];
  for (let i = 0; i < across * across; i++) {
    const [x, z] = [i % across, Math.floor(i / across)].map((n) => (n! - (across - 1) / 2) * 0.04) as [number, number];
    const first = positions.length / 3;
    for (const [dx, dz] of [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ] as const)
      positions.push(x + dx * width, 0, z + dz * width);
    positions.push(x, height, z);
    const at = (k: number) => first + k;
    triangles.push(at(0), at(1), at(2), at(0), at(2), at(3));
    for (let side = 0; side < 4; side++) triangles.push(at(side), at(4), at((side + 1) % 4));
  }
  return { positions: Float32Array.from(positions), triangles: Uint32Array.from(triangles) };
}

/** A sheet whose rows are all but one squeezed together: faces a hundred times as long as they are wide. */
function slivers(): Mesh {
  const flat = sheet({ width: 0.3, height: 0.3, spacing: 0.03 });
  const squeeze = (value: number) => (value > 0.1 ? value : -0.15 + (value + 0.15) * 0.01);
  return {
    ...flat,
    positions: flat.positions.map((value, i) => (i % 3 === 2 ? squeeze(value) : value)),
    material: flat.material!.map((value, i) => (i % 2 === 1 ? squeeze(value) : value)),
  };
}

describe('hard scenes', () => {
  it('layers of a million times each other’s weight neither cross nor explode', () => {
    const layer = (id: string, height: number, weight: number) => {
      const rest = place(sheet({ width: 0.2, height: 0.2, spacing: 0.02 }), {
        position: [0, height, 0],
        rotation: [0, height * 9, 0],
      });
      return {
        id,
        rest,
        positions: rest.positions,
        fabric: fabricSchema.parse({ weight: 1 }),
        held: [],
        layerDistance: 0.002,
        weight,
      };
    };
    const cloths = [layer('light', 0.056, 5e-6), layer('heavy', 0.07, 5)].map(({ weight, ...cloth }) => ({
      ...cloth,
      fabric: { ...cloth.fabric, weight },
    }));
    const solver = new Solver({
      cloths,
      colliders: [
        {
          id: 'box',
          kind: 'box',
          size: [0.1, 0.1, 0.1],
          center: [0, 0, 0],
          rotation: rotation([0, 0, 0]),
          clearance: 0.003,
          friction: 0.4,
        },
      ],
      air: { gravity: [0, -9.81, 0], density: 1.2, windAt: () => [0, 0, 0] },
    });
    for (let frame = 0; frame < 16; frame++) {
      solver.advance(1 / 24, 60);
      expect(solver.crossings().count, `frame ${frame}`).toBe(0);
      expect(solver.measure().fastest).toBeLessThan(20);
    }
  });

  it('cloth that falls on a bed of needles lies on it, and none comes through', () => {
    const bed = createCollider({ id: 'bed', name: 'Bed', shape: { kind: 'mesh', asset: 'bed' } });
    const frames = baked([sheetAt(0.12, 0.03), bed], new Map([['bed', needles(6, 0.002, 0.1)]]), 14);
    for (const { stats } of frames) expect(stats).toMatchObject({ crossings: 0, pierced: 0 });
    expect(Math.max(...frames.at(-1)!.positions[0]!.filter((_, i) => i % 3 === 1))).toBeGreaterThan(0.09);
  });

  it('a sheet of slivers falls, stays finite, and tells where it could not keep its promise', () => {
    const cloth = createCloth({
      ...{ id: 'sheet', name: 'Sheet', card: 'linen-mid', position: [0, 0.12, 0] },
      shape: { kind: 'mesh', asset: 'slivers' },
    });
    const box = createCollider({
      ...{ id: 'box', name: 'Box' },
      shape: { kind: 'box', width: 0.15, height: 0.2, depth: 0.15 },
    });
    for (const { positions, stats } of baked([cloth, box], new Map([['slivers', slivers()]]), 6)) {
      expect(positions[0]!.every(Number.isFinite)).toBe(true);
      expect(stats.retakes).toBeLessThanOrEqual(3);
      expect(stats.broke === null).toBe(stats.kept === true);
    }
  });
});
