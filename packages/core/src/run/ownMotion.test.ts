import { describe, expect, it } from 'vitest';
import { sheet } from '../mesh/shapes/sheet';
import type { Mesh, Motion } from '../mesh/mesh';
import { createCloth, createLeash, createPinSet, createScenery, createShot, createTie } from '../shot/create';
import type { Cloth, Shot, Thing } from '../shot/schema';
import { BakeRun } from './bakeRun';
import type { BakedFrame } from './frame';
import { animatedPositions } from './animatedPositions';
import { apart, mesh, point, SHAPE, top } from './heldShots';

// Cloth and surfaces that came with animation.

const TWO_SECONDS = { name: 'Swell', rate: 1, samples: 3 };

/** A mesh whose points go by a morph target to its full weight in one second, and back in another. */
function animated(still: Mesh, targetOf: (x: number, y: number, z: number) => [number, number, number]): Mesh {
  const count = still.positions.length / 3;
  const target = Float32Array.from(
    Array.from({ length: count }, (_, i) => targetOf(...point(still.positions, i))).flat(),
  );
  const rows = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];
  const motion: Motion = {
    bind: still.positions,
    joints: new Uint16Array(count * 4),
    weights: Float32Array.from({ length: count * 4 }, (_, i) => (i % 4 === 0 ? 1 : 0)),
    bones: 1,
    targets: [target],
    clips: [
      {
        ...TWO_SECONDS,
        matrices: Float32Array.from([...rows, ...rows, ...rows]),
        targetWeights: Float32Array.from([0, 1, 0]),
      },
    ],
  };
  return { ...still, motion };
}

const bannerMesh = animated(mesh, (x) => [0, 0.3 * (x + 0.3), 0.1]);
const assets = new Map([['banner', bannerMesh]]);
const MOTION = { clip: 'Swell', start: 1 };

function banner(given: Partial<Parameters<typeof createCloth>[0]>, more: Thing[] = []): Shot {
  const shape = { kind: 'mesh' as const, asset: 'banner' };
  const cloth = createCloth({ id: 'c', name: 'Banner', shape, position: [0, 1, 0], motion: MOTION, ...given });
  return createShot({ name: 'Own motion', lastFrame: 48, run: { substeps: 40 }, things: [cloth, ...more] });
}

function frames(of: Shot, count: number, with_ = assets): BakedFrame[] {
  const run = new BakeRun(of, with_);
  return Array.from({ length: count }, () => run.next());
}

describe('the animation that came with a cloth', () => {
  it('is followed by its pins within 0.01 mm, moved and gathered besides', () => {
    const pinSets = [createPinSet({ name: 'Top', points: top, rides: 'c' })];
    const shot = banner({ pinSets });
    for (const { frame, positions } of frames(shot, 30)) {
      const wanted = animatedPositions(shot, shot.things[0] as Cloth, assets, frame);
      for (const i of top) expect(apart(point(positions[0]!, i), point(wanted, i))).toBeLessThan(1e-5);
    }
    const moved = banner({ pinSets: [{ ...pinSets[0]!, move: [0, 0, 0.2] }] });
    const [plain, shifted] = [frames(shot, 12), frames(moved, 12)].map((all) => all.at(-1)!.positions[0]!);
    for (const i of top) expect(point(shifted!, i)[2] - point(plain!, i)[2]).toBeCloseTo(0.2, 5);
  });

  it('is where it starts, and what leashes keep it near to', () => {
    const all = Array.from({ length: mesh.positions.length / 3 }, (_, i) => i);
    const shot = banner({
      leashes: [createLeash({ name: 'L', points: all, distance: 0.02 })],
      motion: { ...MOTION, start: -11 },
    });
    const baked = frames(shot, 13);
    const start = animatedPositions(shot, shot.things[0] as Cloth, assets, 1);
    expect(baked[0]!.positions[0]).toEqual(start);
    // At frame 1 the clip is half way out.
    expect(start[1]! - 1).toBeCloseTo(0.3 * (mesh.positions[0]! + 0.3) * 0.5, 5);
    const wanted = animatedPositions(shot, shot.things[0] as Cloth, assets, 13);
    all.forEach((i) => expect(apart(point(baked[12]!.positions[0]!, i), point(wanted, i))).toBeLessThan(0.0205));
  });
});

it('ties follow the surface of a body that changes its shape within 0.1 mm', () => {
  // A table that is drawn out, tilted and lifted: each place of its top goes by a rule that is known.
  const slab = sheet({ width: 1, height: 0.8, spacing: 0.1 });
  const lift = (x: number, z: number) => [0.3 * x, 0.2 * x + 0.1 * z + 0.1, 0] as const;
  const table = animated(slab, (x, _, z) => [...lift(x, z)]);
  const solid = createScenery({
    id: 'b',
    name: 'Table',
    shape: { kind: 'mesh', asset: 'table' },
    position: [0, 0.99, 0],
    motion: MOTION,
  });
  const cloth = createCloth({ id: 'c', name: 'C', shape: SHAPE, position: [0, 1, 0] });
  const tied = createShot({
    name: 'Tilting',
    lastFrame: 40,
    run: { substeps: 40 },
    things: [{ ...cloth, ties: [createTie({ name: 'T', points: top, to: 'b' })] }, solid],
  });
  const baked = frames(tied, 25, new Map([['table', table]]));
  for (const { frame, positions } of baked) {
    const share = (frame - 1) / 24;
    for (const i of top) {
      const [x, , z] = point(baked[0]!.positions[0]!, i);
      const by = lift(x, z).map((value) => value * share);
      const foot = [x + by[0]!, 0.99 + by[1]!, z + by[2]!];
      // 10 mm along the normal of the tilted top: (1 + 0.3 s, 0.2 s, 0) and (0, 0.1 s, 1) lie in it.
      const normal = [-0.2 * share, 1 + 0.3 * share, -0.1 * share * (1 + 0.3 * share)];
      const size = Math.hypot(...normal);
      const wanted = foot.map((value, axis) => value + (0.01 * normal[axis]!) / size);
      expect(apart(point(positions[0]!, i), wanted)).toBeLessThan(1e-4);
    }
  }
});
