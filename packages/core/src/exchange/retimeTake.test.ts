import { describe, expect, it } from 'vitest';
import { finishEntrySchema } from '../finish/steps';
import { topology } from '../mesh/topology';
import { BakeRun } from '../run/bakeRun';
import { createAir, createCloth, createShot } from '../shot/create';
import { lastShownFrame, sourceFrame } from '../shot/sourceFrame';
import type { Cloth } from '../shot/schema';
import { shapeMesh } from '../shot/shapes';
import { finishTake } from './finishTake';
import type { HandedFrame } from './formats/format';

const shape = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.04 } as const;
const mesh = shapeMesh(shape, new Map());
const retimed = (speed: number, more: Partial<Cloth> = {}): Cloth =>
  createCloth({
    ...{ id: 'c', name: 'Cloth', shape, position: [0, 1, 0] },
    finish: [finishEntrySchema.parse({ id: 'r', step: { kind: 'retime', speed } })],
    ...more,
  });
const keyed = (values: [number, number][]) => [
  {
    number: 'finish:r.speed',
    knots: values.map(([frame, value]) => ({ frame, value, ease: 'linear' as const })),
  },
];

/** A cloth that falls and flutters, baked. */
function baked(count: number): HandedFrame[] {
  const wind = createAir({ name: 'Wind', air: { kind: 'wind', speed: 6, turbulence: 0.5 } });
  const shot = createShot({
    name: 'Fall',
    lastFrame: count,
    things: [retimed(1, { finish: [] }), wind],
    run: { substeps: 20 },
  });
  const run = new BakeRun(shot, new Map());
  return Array.from({ length: count }, () => run.next());
}
const take = baked(12);

async function written(cloths: Cloth[], frames: readonly HandedFrame[] = take): Promise<HandedFrame[]> {
  async function* coming() {
    for (const { frame, positions } of frames) yield { frame, positions: cloths.map(() => positions[0]!) };
  }
  const out: HandedFrame[] = [];
  const done = finishTake(
    cloths.map((cloth) => ({ cloth, mesh })),
    { shot: createShot({ name: 'Take', things: cloths }), assets: new Map(), finished: true },
  );
  for await (const frame of done.frames(coming())) out.push(frame);
  return out;
}

describe('a retimed take', () => {
  it('at 40 % has each of its frames to the bit, and lengths are kept between', async () => {
    const out = await written([retimed(0.4)]);
    // 11 frames of way at 0.4 are 27.5.
    expect(out.map(({ frame }) => frame)).toEqual(Array.from({ length: 29 }, (_, i) => i + 1));
    for (let n = 0; n <= 5; n++) expect(out[n * 5]!.positions[0]).toBe(take[n * 2]!.positions[0]);
    expect(out.at(-1)!.positions[0]).toBe(take.at(-1)!.positions[0]);
    const { edgePoints, edgeCount } = topology(mesh);
    const length = (p: Float32Array, edge: number) => {
      const [a, b] = [edgePoints[edge * 2]! * 3, edgePoints[edge * 2 + 1]! * 3];
      return Math.hypot(...[0, 1, 2].map((axis) => p[a + axis]! - p[b + axis]!));
    };
    for (const { frame, positions } of out) {
      const source = Math.min(12, 1 + (frame - 1) * 0.4);
      const [from, to] = [take[Math.floor(source) - 1]!, take[Math.ceil(source) - 1]!];
      for (let edge = 0; edge < edgeCount; edge++) {
        const [early, late, now] = [from, to, { positions }].map((of) => length(of.positions[0]!, edge)) as number[];
        expect(now! / Math.max(early!, late!)).toBeLessThan(1.003);
        expect(now! / Math.min(early!, late!)).toBeGreaterThan(0.997);
      }
    }
  });

  it('at three times the speed ends early; cloth beside it that is not goes on', async () => {
    const fast = await written([retimed(3)]);
    expect(fast.map(({ positions }) => take.findIndex((frame) => frame.positions[0] === positions[0]))).toEqual([
      0, 3, 6, 9, 11,
    ]);
    const both = await written([retimed(3), retimed(1, { id: 'd', finish: [] })]);
    expect(both).toHaveLength(12);
    expect(both[11]!.positions[0]).toBe(take[11]!.positions[0]);
    expect(both[4]!.positions[1]).toBe(take[4]!.positions[0]);
  });

  it('stands still where its speed is keyed to nothing, and ends all the same', async () => {
    const stops = retimed(1, {
      keys: keyed([
        [1, 1],
        [5, 1],
        [6, 0],
      ]),
    });
    const out = await written([stops]);
    expect(out.length).toBeGreaterThanOrEqual(12);
    expect(out.length).toBeLessThan(16);
    expect(out.at(-1)!.positions[0]).toEqual(out.at(-2)!.positions[0]);
  });

  it('leaves out what lies beside a frame that is missing', async () => {
    const out = await written(
      [retimed(0.5)],
      take.filter(({ frame }) => frame !== 4),
    );
    const frames = out.map(({ frame }) => frame);
    expect(frames).toContain(5);
    for (const missing of [6, 7, 8]) expect(frames).not.toContain(missing);
    expect(frames).toContain(9);
  });
});

describe('the frame of the take that is shown', () => {
  it('is the sum of its keyed speed, and whole where it should be', () => {
    const slows = retimed(1, {
      keys: keyed([
        [1, 1],
        [11, 0],
      ]),
    });
    // Half of the ten frames.
    expect(sourceFrame(slows, 1, 11)).toBeCloseTo(6, 6);
    expect(sourceFrame(retimed(0.1), 1, 31)).toBe(4);
    expect(sourceFrame(retimed(0.1), 1, -20)).toBe(-20);
  });

  it('goes through several steps, the last of the list first', () => {
    const step = (id: string, speed: number) => finishEntrySchema.parse({ id, step: { kind: 'retime', speed } });
    const two = retimed(1, { finish: [step('a', 0.5), step('b', 4)] });
    expect(sourceFrame(two, 1, 3)).toBe(5);
    expect(sourceFrame({ ...two, finish: two.finish.map((one) => ({ ...one, on: false })) }, 1, 3)).toBe(3);
  });

  it('tells how far a take goes', () => {
    expect(lastShownFrame([retimed(0.4)], 1, 12)).toBe(29);
    expect(lastShownFrame([retimed(3)], 1, 12)).toBe(5);
    expect(lastShownFrame([retimed(3), retimed(1, { finish: [] })], 1, 12)).toBe(12);
    expect(lastShownFrame([retimed(0)], 1, 12)).toBe(12);
  });
});
