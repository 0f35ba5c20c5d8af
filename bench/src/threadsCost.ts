import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import { BakeRun, createCloth, createCollider, createShot, useThreads, type Shot } from '@lumbra/core';
import { startNodeHelper } from '@lumbra/core/node';
import { NIGHT_FERRY } from '@lumbra/demo';
import { crumplingDrop, fastFender } from '@lumbra/demo/stress';
import { twoLayers } from '@lumbra/demo/trialShots';
import { median, row } from './print';

const FRAMES = 24;
const ROUNDS = 3;
const THREADS = Math.min(2, availableParallelism());

const SCENES: Record<string, () => Shot> = {
  'NF010 Crate cover': NIGHT_FERRY.shots[0]!,
  'crumpling drop, 51x51': () => crumplingDrop(51),
  'crumpling drop, 101x101': () => crumplingDrop(101),
  'fast fender': () => fastFender(41),
  'denim over chiffon': () => twoLayers('silk-chiffon', 'denim'),
  '201x201 on a ball': ballDrop,
};

function ballDrop(): Shot {
  return createShot({
    ...{ id: 'ball-drop', name: 'Ball drop', lastFrame: FRAMES },
    things: [
      createCloth({
        ...{ id: 'sheet', name: 'Sheet', card: 'cotton-poplin', position: [0.01, 0.42, 0] },
        shape: { kind: 'sheet', width: 1.6, height: 1.6, spacing: 0.008 },
      }),
      createCollider({ id: 'ball', name: 'Ball', shape: { kind: 'ball', radius: 0.4 } }),
    ],
  });
}

/**
 * What a frame costs on one thread and on two, frame by frame in turns, first on the machine as it is, then while something else keeps one of its
 * processors busy.
 */
export async function threadsCost(): Promise<void> {
  console.log(`\nA frame on one thread and on ${THREADS}, medians of ${ROUNDS} rounds of ${FRAMES} frames in turns`);
  const scenes = Object.entries(SCENES).filter(([name]) => name.includes(process.env['SCENE'] ?? ''));
  await table(scenes);
  console.log('\nThe same while another thread keeps a processor busy');
  const other = new Worker('for (;;);', { eval: true });
  await table(scenes.slice(0, 2));
  await other.terminate();
}

async function table(scenes: [string, () => Shot][]): Promise<void> {
  row('ms a frame', 'one', String(THREADS), 'times quicker');
  for (const [name, build] of scenes) {
    const rounds = [];
    for (let n = 0; n < ROUNDS; n++) rounds.push(await round(build()));
    const [one, more] = [median(rounds.map((times) => times[0])), median(rounds.map((times) => times[1]))];
    const ratio = median(rounds.map((times) => times[0] / times[1]));
    row(name, one.toFixed(0), more.toFixed(0), ratio.toFixed(2));
  }
}

/** ms a frame on one thread and on more. */
async function round(shot: Shot): Promise<[number, number]> {
  const runs = [1, THREADS].map((threads) => {
    useThreads(threads, startNodeHelper);
    return new BakeRun(shot, new Map());
  });
  const times: [number, number] = [0, 0];
  for (let frame = 0; frame < FRAMES; frame++) {
    // Helpers come when this thread lets them.
    await new Promise((resolve) => setTimeout(resolve, 2));
    runs.forEach((run, i) => {
      const started = performance.now();
      run.next();
      if (frame > 0) times[i]! += performance.now() - started;
    });
  }
  return [times[0] / (FRAMES - 1), times[1] / (FRAMES - 1)];
}
