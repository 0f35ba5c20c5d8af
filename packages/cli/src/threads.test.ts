import { Worker } from 'node:worker_threads';
import {
  BakeRun,
  createCloth,
  createCollider,
  createPinSet,
  createShot,
  frameFingerprint,
  MOST_THREADS,
  threadsFor,
  useThreads,
  type Helper,
  type Mesh,
} from '@lumbra/core';
import { startNodeHelper } from '@lumbra/core/node';
import { afterEach, describe, expect, it } from 'vitest';

/** A dome of so many faces around, as an imported cloth: all its hinges are folded at rest. */
function dome(around: number): Mesh {
  const rows = around / 4;
  const positions = [0, 0.1, 0];
  const triangles: number[] = [];
  for (let row = 1; row <= rows; row++) {
    for (let n = 0; n < around; n++) {
      const [angle, down] = [(2 * Math.PI * n) / around, (Math.PI / 2) * (row / rows)];
      positions.push(
        0.1 * Math.sin(down) * Math.cos(angle),
        0.1 * Math.cos(down),
        0.1 * Math.sin(down) * Math.sin(angle),
      );
      const [here, next] = [n, (n + 1) % around].map((k) => 1 + (row - 1) * around + k) as [number, number];
      if (row === 1) triangles.push(0, next, here);
      else triangles.push(here - around, next - around, here, next - around, next, here);
    }
  }
  return { positions: Float32Array.from(positions), triangles: Uint32Array.from(triangles) };
}

const ASSETS = new Map([['dome', dome(24)]]);

/**
 * What has work for each kind of loop: a sheet that hangs by two corners and curls, one that falls crumpled on a crate, a cone that goes by and the
 * ground, and a dome that is folded at rest.
 */
function crumplingSheets() {
  const sheet = { kind: 'sheet', width: 0.5, height: 0.5, spacing: 0.5 / 34 } as const;
  const from = (number: string, ...values: number[]) => ({
    number,
    knots: values.map((value, i) => ({ frame: 1 + i * 12, value, ease: 'linear' as const })),
  });
  return createShot({
    ...{ id: 'crumple', name: 'Crumple', lastFrame: 40, run: { substeps: 40 } },
    things: [
      createCloth({
        ...{ id: 'fallen', name: 'Fallen', card: 'cotton-poplin', shape: sheet },
        ...{ position: [0.01, 0.4, 0], rotation: [1.2, 0.2, 0.3] },
      }),
      createCloth({
        ...{ id: 'hung', name: 'Hung', card: 'silk-chiffon', shape: sheet, fabric: { curlWarp: 6 } },
        ...{ position: [0, 0.35, -0.02], rotation: [Math.PI / 2, 0, 0] },
        pinSets: [createPinSet({ name: 'Corners', points: [0, 34] })],
      }),
      createCloth({
        ...{ id: 'dome', name: 'Dome', card: 'linen-mid', shape: { kind: 'mesh', asset: 'dome' } },
        position: [0.12, 0.115, 0.05],
      }),
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } }),
      createCollider({
        ...{ id: 'crate', name: 'Crate', position: [0.1, 0.05, 0.05] },
        shape: { kind: 'box', width: 0.12, height: 0.1, depth: 0.12 },
      }),
      createCollider({
        ...{
          id: 'cone',
          name: 'Cone',
          position: [-0.15, 0, -0.02],
          shape: { kind: 'cone', radius: 0.06, height: 0.16 },
        },
        keys: [from('position.x', -0.15, 0.05)],
      }),
    ],
  });
}

afterEach(() => {
  useThreads(1, startNodeHelper);
});

interface How {
  start: () => Helper;
  resumed: boolean;
  frames: number;
  lost: () => void;
}

/** The fingerprint of the state after some frames on so many threads, gone on with from the middle or not. */
async function bits(
  threads: number,
  { start = startNodeHelper as () => Helper, resumed = false, frames = 10, lost = () => {} }: Partial<How> = {},
) {
  useThreads(threads, start, { always: true, lost });
  const shot = crumplingSheets();
  let run = new BakeRun(shot, ASSETS);
  for (let frame = 0; frame < frames; frame++) {
    if (resumed && frame === frames - 4) run = new BakeRun(shot, ASSETS, run.checkpoint());
    run.next();
    // Lets helpers come, and end.
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  return frameFingerprint([run.checkpoint().state.arrays]);
}

describe('threads', () => {
  it('give the same bits, one, two or four of them, gone on with or not', async () => {
    let calls = 0;
    const counted = (): Helper => {
      const helper = startNodeHelper();
      return { ...helper, call: (call) => (calls++, helper.call(call)) };
    };
    const one = await bits(1);
    expect(await bits(2, { start: counted })).toBe(one);
    expect(calls).toBeGreaterThanOrEqual(9);
    expect(await bits(4)).toBe(one);
    expect(await bits(2, { resumed: true })).toBe(one);
  }, 240_000);

  it('go on alone, with the same bits, where a helper takes a chunk and never does it', async () => {
    const one = await bits(1, { frames: 3 });
    let ended = 0;
    const thief = (): Helper => {
      const worker = new Worker(THIEF, { eval: true });
      worker.unref();
      return {
        call: ({ memory, pool, self }) => worker.postMessage({ memory, left: (pool + 320 + 64 * self) / 4 }),
        end: () => {
          ended++;
          void worker.terminate();
        },
      };
    };
    let told = 0;
    expect(await bits(2, { start: thief, frames: 3, lost: () => told++ })).toBe(one);
    expect([ended, told]).toEqual([1, 1]);
  }, 120_000);

  it('go on alone where helpers fail as they begin', async () => {
    const one = await bits(1, { frames: 3 });
    /** Their pool lies outside the memory. */
    const failing = (): Helper => {
      const helper = startNodeHelper();
      return { ...helper, call: (call) => helper.call({ ...call, pool: 0xfffffff0 }) };
    };
    expect(await bits(3, { start: failing, frames: 3 })).toBe(one);
  }, 60_000);

  it('are as many as are of use, and at least one', () => {
    expect(threadsFor(0)).toBe(1);
    expect(threadsFor(1000)).toBe(MOST_THREADS);
    expect(threadsFor(2.7)).toBe(2);
    expect(threadsFor(Number.NaN)).toBe(1);
  });
});

/** Waits for a chunk that is dealt to it, see kernel/assembly/threads/pool.ts, takes it, and is never heard of again. */
const THIEF = `
  const { parentPort } = require('node:worker_threads');
  parentPort.on('message', ({ memory, left }) => {
    const words = new Int32Array(memory.buffer);
    const until = Date.now() + 2000;
    while (Date.now() < until) if (Atomics.load(words, left) > 0 && Atomics.sub(words, left, 1) > 0) for (;;);
  });
`;
