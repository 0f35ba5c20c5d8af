import { BakeRun, createAir, createCloth, createCollider, createPinSet, createShot, type Shot } from '@lumbra/core';
import { median, row } from './print';

const ROUNDS = 30;
/** Frames before it counts: the sheet has come down on what holds it. */
const WARM = 6;

/** A sheet of 20,000 triangles hung up by its upper border beside a box, in so many winds that do all that winds can. */
export function hungSheet(winds: number): Shot {
  const sheet = createCloth({
    id: 'sheet',
    name: 'Sheet',
    card: 'linen',
    shape: { kind: 'sheet', width: 1, height: 1, spacing: 0.01 },
    position: [0, 1.2, 0],
    rotation: [Math.PI / 2, 0, 0],
    pinSets: [createPinSet({ name: 'Border', points: [...Array(101).keys()] })],
  });
  const box = createCollider({
    id: 'box',
    name: 'Box',
    shape: { kind: 'box', width: 0.4, height: 0.4, depth: 0.4 },
    position: [0, 1, -0.6],
  });
  const blowing = Array.from({ length: winds }, (_, i) =>
    createAir({
      id: `wind-${i}`,
      name: `Wind ${i}`,
      position: [0, 1, -2],
      rotation: [0, i * 0.4, 0],
      // So gentle that the cloth does the same with and without: what is measured is what the air itself costs.
      air: { kind: 'wind', speed: 0.01, turbulence: 0.3, shadow: 1, eddySeed: i },
    }),
  );
  return createShot({ name: 'Air', lastFrame: 100, things: [sheet, box, ...blowing] });
}

/** What winds cost that have eddies and a shadow, against the same frames in still air. */
export function airCost(): void {
  console.log(`20,000 triangles in winds with turbulence and shadow, medians of ${ROUNDS} interleaved frames`);
  row('winds', 'ms/frame', 'times none');
  const entries = [0, 1, 2].map((winds) => ({
    winds,
    run: new BakeRun(hungSheet(winds), new Map()),
    milliseconds: [] as number[],
  }));
  for (let round = 0; round < WARM + ROUNDS; round++) {
    for (const { run, milliseconds } of entries) {
      const started = performance.now();
      run.next();
      if (round >= WARM) milliseconds.push(performance.now() - started);
    }
  }
  const none = median(entries[0]!.milliseconds);
  for (const { winds, milliseconds } of entries) {
    const cost = median(milliseconds);
    row(String(winds), cost.toFixed(1), (cost / none).toFixed(3));
  }
}
