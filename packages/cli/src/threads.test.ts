import { Worker } from 'node:worker_threads';
import {
  BakeRun,
  createCloth,
  createCollider,
  createShot,
  frameFingerprint,
  MOST_THREADS,
  threadsFor,
  useThreads,
  type Helper,
} from '@lumbra/core';
import { startNodeHelper } from '@lumbra/core/node';
import { afterEach, describe, expect, it } from 'vitest';

/** Two sheets that crumple over a crate, a turning cone and the ground: each kind of loop has work in it. */
function crumplingSheets() {
  const sheet = (id: string, card: string, height: number) =>
    createCloth({
      ...{ id, name: id, card, position: [0.01, height, 0], rotation: [1.2, 0.2, 0.3] },
      shape: { kind: 'sheet', width: 0.5, height: 0.5, spacing: 0.5 / 34 },
    });
  const collider = (id: string, kind: string, position: number[], size: object) =>
    createCollider({ id, name: id, position, shape: { kind, ...size } } as never);
  return createShot({
    ...{ id: 'crumple', name: 'Crumple', lastFrame: 40 },
    things: [
      sheet('outer', 'cotton-poplin', 0.42),
      sheet('inner', 'silk-chiffon', 0.4),
      collider('ground', 'ground', [0, 0, 0], {}),
      collider('crate', 'box', [0.1, 0.05, 0.05], { width: 0.12, height: 0.1, depth: 0.12 }),
      collider('cone', 'cone', [-0.12, 0, 0], { radius: 0.06, height: 0.16 }),
    ],
  } as never);
}

afterEach(() => {
  useThreads(1, startNodeHelper);
});

/** The fingerprint of the state after some frames on so many threads, gone on with from the middle or not. */
async function bits(threads: number, { start = startNodeHelper as () => Helper, resumed = false, frames = 10 } = {}) {
  useThreads(threads, start, { always: true });
  const shot = crumplingSheets();
  let run = new BakeRun(shot, new Map());
  for (let frame = 0; frame < frames; frame++) {
    if (resumed && frame === frames - 4) run = new BakeRun(shot, new Map(), run.checkpoint());
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
    expect(await bits(2, { start: thief, frames: 3 })).toBe(one);
    expect(ended).toBe(1);
  }, 120_000);

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
