import { expect, it } from 'vitest';
import type { Mesh } from '../mesh/mesh';
import { createCloth, createCollider, createShot } from '../shot/create';
import { shapeMesh } from '../shot/shapes';
import { BakeRun } from './bakeRun';
import type { BakedFrame } from './frame';

const [RATE, STARTS, ENDS, FAR, LAST] = [24, 16, 40, 0.3, 48];

/** A mesh that its animation takes a way along x, as a bone that carries all of it. */
function carried(mesh: Mesh): Mesh {
  const count = mesh.positions.length / 3;
  const samples = ENDS - STARTS + 1;
  const matrices = new Float32Array(samples * 12);
  for (let i = 0; i < samples; i++) matrices.set([1, 0, 0, (FAR * i) / (samples - 1), 0, 1, 0, 0, 0, 0, 1, 0], i * 12);
  return {
    ...mesh,
    motion: {
      ...{ bind: mesh.positions, joints: new Uint16Array(count * 4), bones: 1, targets: [] },
      weights: Float32Array.from({ length: count * 4 }, (_, i) => (i % 4 === 0 ? 1 : 0)),
      clips: [{ name: 'Goes', rate: RATE, samples, matrices, targetWeights: new Float32Array(0) }],
    },
  };
}

it('a mesh that its animation moves as a whole carries cloth as one does that is keyed, and nothing passes through it', () => {
  const still = shapeMesh({ kind: 'ring', radius: 0.16, tubeRadius: 0.03, segments: 32 }, new Map());
  const assets = new Map([
    ['still', still],
    ['carried', carried(still)],
  ]);
  const bake = (collider: Parameters<typeof createCollider>[0]): BakedFrame[] => {
    const cloth = createCloth({
      ...{ name: 'Sheet', shape: { kind: 'sheet', width: 0.5, height: 0.5, spacing: 0.025 } },
      position: [0, 0.06, 0],
    });
    const run = new BakeRun(
      createShot({ name: 'x', things: [cloth, createCollider(collider)], frameRate: RATE, lastFrame: LAST }),
      assets,
    );
    return Array.from({ length: LAST }, () => run.next());
  };
  const keyed = bake({
    ...{ name: 'Ring', shape: { kind: 'mesh', asset: 'still' }, friction: 0.6 },
    keys: [
      {
        number: 'position.x',
        knots: [
          { frame: STARTS, value: 0, ease: 'linear' },
          { frame: ENDS, value: FAR, ease: 'linear' },
        ],
      },
    ],
  });
  const animated = bake({
    ...{ name: 'Ring', shape: { kind: 'mesh', asset: 'carried' }, friction: 0.6 },
    motion: { clip: 'Goes', start: STARTS },
  });
  for (const frames of [keyed, animated]) {
    for (const { stats } of frames) expect([stats.crossings, stats.pierced]).toEqual([0, 0]);
    const [positions] = frames.at(-1)!.positions;
    const mean = positions!.reduce((sum, value, i) => (i % 3 === 0 ? sum + value : sum), 0) / (positions!.length / 3);
    // As it starts and stops at once it slides a little, there and back.
    expect(Math.abs(mean - FAR)).toBeLessThan(0.006);
  }
  const [one, other] = [keyed, animated].map((frames) => frames.at(-1)!.positions[0]!);
  const apart = Array.from({ length: one!.length / 3 }, (_, i) =>
    Math.hypot(...[0, 1, 2].map((k) => one![i * 3 + k]! - other![i * 3 + k]!)),
  );
  // Folds that hang free go their own ways a little; what lies on the ring does not.
  expect(apart.sort((a, b) => a - b)[apart.length >> 1]).toBeLessThan(0.006);
});
