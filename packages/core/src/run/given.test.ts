import { describe, expect, it } from 'vitest';
import { checkShot } from '../checks';
import type { Mesh } from '../mesh/mesh';
import { createCloth, createCollider, createShot } from '../shot/create';
import type { Cloth, Given, Shot, Thing } from '../shot/schema';
import { shapeMesh } from '../shot/shapes';
import { Solver } from '../solver/solver';
import { BakeRun } from './bakeRun';
import { compile, CompileError } from './compile';
import type { BakedFrame } from './frame';
import { givenTake } from './givenTake';
import { inputsHash, runInputs } from './inputs';

const SHEET = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.025 } as const;
const ball = createCollider({ id: 'ball', name: 'Ball', shape: { kind: 'ball', radius: 0.12 }, position: [0, 0.2, 0] });
const sheetAt = (id: string, y: number, more: Partial<Parameters<typeof createCloth>[0]> = {}): Cloth =>
  createCloth({ id, name: id, shape: SHEET, position: [0.003, y, 0.002], card: 'linen-mid', ...more });
const mesh = shapeMesh(SHEET, new Map());
const GIVEN: Given = { asset: 'kept', start: 1, from: 'Take 1' };

function shotOf(things: Thing[], more: Partial<Shot> = {}): Shot {
  return createShot({ name: 'Heap', things, lastFrame: 14, ...more } as never);
}

function baked(shot: Shot, assets: ReadonlyMap<string, Mesh> = new Map()): BakedFrame[] {
  const run = new BakeRun(shot, assets);
  return Array.from({ length: shot.lastFrame }, () => run.next());
}

/** A sheet that turns about a level axis through its middle and rises, in so many frames. */
function turning(frames: number, of: Mesh = mesh, degreesAFrame = 3) {
  const all = Array.from({ length: frames }, (_, n) => {
    const angle = (n * degreesAFrame * Math.PI) / 180;
    const positions = of.positions.map((_, i, p) => {
      const [x, z] = [p[i - (i % 3)]!, p[i - (i % 3) + 2]!];
      return [x, 0.5 + 0.004 * n - z * Math.sin(angle), z * Math.cos(angle)][i % 3]!;
    });
    return { frame: n + 1, positions };
  });
  return { all, assets: new Map([['kept', givenTake(of, all, 24)]]) };
}

const farthest = (a: Float32Array, b: Float32Array) => a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i]!)), 0);

describe('cloth that is given its motion', () => {
  it('goes where a take of it went, while other cloth falls on it without a crossing', () => {
    const alone = baked(shotOf([sheetAt('under', 0.36), ball]));
    const frames = alone.map(({ frame, positions }) => ({ frame, positions: positions[0]! }));
    const assets = new Map([['kept', givenTake(mesh, frames, 24)]]);
    const both = baked(shotOf([sheetAt('under', 0.36, { given: GIVEN }), sheetAt('over', 0.39), ball]), assets);
    both.forEach(({ positions, stats }, i) => {
      expect(farthest(positions[0]!, alone[i]!.positions[0]!)).toBeLessThan(2e-7);
      expect(stats.crossings).toBe(0);
    });
    const lowest = (positions: Float32Array) => Math.min(...positions.filter((_, i) => i % 3 === 1));
    const alike = baked(shotOf([sheetAt('over', 0.39), ball]));
    // It is held up by what is between it and the ball.
    expect(lowest(both.at(-1)!.positions[1]!)).not.toBeCloseTo(lowest(alike.at(-1)!.positions[0]!), 4);
  });

  it('carries what lies on it, however fast it goes, and is not moved by what is heavier', () => {
    const { all, assets } = turning(14, mesh, 6);
    const heavy = { ...sheetAt('over', 0.53).fabric, weight: 2 };
    const shot = shotOf([sheetAt('under', 0, { given: GIVEN }), sheetAt('over', 0.515, { fabric: heavy })]);
    const frames = baked(shot, assets);
    frames.forEach(({ positions, stats }, i) => {
      expect(farthest(positions[0]!, all[i]!.positions)).toBeLessThan(1e-6);
      expect(stats.crossings).toBe(0);
    });
  });

  it('stands still before its first frame and after its last', () => {
    const { all, assets } = turning(5);
    const under = sheetAt('under', 0, { given: { ...GIVEN, start: 4 } });
    const frames = baked(shotOf([under, sheetAt('over', 0.56)], { lastFrame: 12 }), assets);
    const at = (frame: number) => frames[frame - 1]!.positions[0]!;
    for (const frame of [1, 4]) expect(farthest(at(frame), all[0]!.positions)).toBeLessThan(1e-6);
    for (const frame of [8, 12]) expect(farthest(at(frame), all[4]!.positions)).toBeLessThan(1e-6);
  });

  it('may cross itself and other cloth that is given: what is simulated does not, and the run goes on', () => {
    const { assets } = turning(14);
    const crossed = [sheetAt('under', 0, { given: GIVEN }), sheetAt('through', 0, { given: { ...GIVEN, start: 9 } })];
    const frames = baked(shotOf([...crossed, sheetAt('over', 0.56)], { lastFrame: 8 }), assets);
    for (const { stats } of frames) expect([stats.crossings, stats.kept]).toEqual([0, true]);
  });

  it('costs no more than its surface', () => {
    const { assets } = turning(14);
    const bytes = (given: Given | null) =>
      new Solver(compile(shotOf([sheetAt('under', 0.5, { given }), sheetAt('over', 0.6)]), assets)).bytes;
    const alone = new Solver(compile(shotOf([sheetAt('over', 0.6)]), assets)).bytes;
    expect(bytes(GIVEN) - alone).toBeLessThan(0.8 * (bytes(null) - alone));
  });

  it('goes on bit for bit from any frame, and is computed near the origin where it is far out', () => {
    const { assets } = turning(14);
    const things = [sheetAt('under', 0, { given: GIVEN }), sheetAt('over', 0.53)];
    const shot = shotOf(things, { lastFrame: 8 });
    const whole = baked(shot, assets);
    const first = new BakeRun(shot, assets);
    for (let n = 0; n < 5; n++) first.next();
    const second = new BakeRun(shot, assets, first.checkpoint());
    expect(second.next().stats.fingerprint).toBe(whole[5]!.stats.fingerprint);

    const far = turning(14, { ...mesh, positions: mesh.positions.map((v, i) => v + [64, 0, 0][i % 3]!) });
    const out = baked(
      shotOf([things[0]!, { ...things[1]!, position: [64.003, 0.53, 0.002] }], { lastFrame: 8 }),
      far.assets,
    );
    const back = out.at(-1)!.positions[1]!.map((v, i) => v - [64, 0, 0][i % 3]!);
    expect(farthest(back, whole.at(-1)!.positions[1]!)).toBeLessThan(2e-3);
  });

  it('is refused in a sentence where its motion is lost, or of another mesh, or nothing else is to be computed', () => {
    const { assets } = turning(3);
    const finer = sheetAt('under', 0, { given: GIVEN, shape: { ...SHEET, spacing: 0.02 } });
    const run = (things: Thing[], of: ReadonlyMap<string, Mesh>) => () => new BakeRun(shotOf(things), of);
    const over = sheetAt('over', 0.56);
    expect(run([sheetAt('under', 0, { given: GIVEN }), over], new Map())).toThrow(/not in the shot any more/);
    expect(run([finer, over], assets)).toThrow(/another mesh: 289 points instead of 441/);
    expect(run([sheetAt('under', 0, { given: { ...GIVEN, asset: null } }), over], assets)).toThrow(/which has none/);
    expect(run([sheetAt('under', 0, { given: GIVEN })], assets)).toThrow(CompileError);
    const shot = shotOf([finer, over]);
    const found = checkShot(shot, assets, { bake: null, bytesFree: null }).find(({ text }) =>
      text.includes('another mesh'),
    );
    expect(found).toMatchObject({ thing: 'under', hinders: true, remedy: 'Simulate it' });
  });

  it('is an input of a run with what it is given, and costs old takes nothing', () => {
    const { assets } = turning(3);
    const inputs = (given: Given | null, of: ReadonlyMap<string, Mesh> = assets) =>
      runInputs(shotOf([sheetAt('under', 0, { given }), sheetAt('over', 0.56)]), of);
    expect(Object.keys(inputs(null)).filter((path) => path.includes('given'))).toEqual([]);
    const [one, ...others] = [
      inputs(GIVEN),
      inputs({ ...GIVEN, start: 2 }),
      inputs(GIVEN, turning(4).assets),
      inputs(null),
    ].map(inputsHash);
    for (const other of others) expect(other).not.toBe(one);
    expect(
      inputsHash(inputs({ ...GIVEN, from: 'Take 7', asset: 'again' }, new Map([['again', assets.get('kept')!]]))),
    ).toBe(one);
  });
});
