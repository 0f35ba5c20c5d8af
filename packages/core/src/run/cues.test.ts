import { describe, expect, it } from 'vitest';
import { applyPose, invertPose } from '../math/pose';
import { createAir, createCloth, createCollider, createPinSet, createScenery, createShot } from '../shot/create';
import { poseAt } from '../shot/placement';
import type { Cue } from '../shot/cueSchemas';
import { writeMask } from '../shot/masks';
import { sidePoints } from '../shot/selectPoints';
import { shapeMesh } from '../shot/shapes';
import type { Cloth, Shot, Thing } from '../shot/schema';
import { BakeRun } from './bakeRun';
import { compile } from './compile';
import { RunCues } from './cues';
import { liveTracks, withLiveTracks } from './liveTracks';
import { changedInputs, runInputs } from './inputs';
import { PacedSolver } from './pacedSolver';
import { pointAt } from './thingSurface';

const none = new Map();
const SHAPE = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.04 } as const;
const mesh = shapeMesh(SHAPE, none);
const count = mesh.positions.length / 3;

const cue = (when: Cue['when'], rest: Partial<Cue> = {}): Cue => ({
  ...{ id: 'cue', name: 'Cue', enabled: true, when, of: null, number: 'restWarp', to: 0.8, over: 4, spread: 0 },
  ...{ onAll: false, lasts: false, ...rest },
});
/** A sheet that hangs by its far side, in weightlessness unless it falls. */
const hung = (cues: Cue[], more: object = {}): Cloth =>
  createCloth({
    ...{ id: 'c', name: 'Cloth', shape: SHAPE, position: [0, 1, 0], rotation: [Math.PI / 2, 0, 0] },
    ...{ pinSets: [createPinSet({ name: 'Pins', points: [sidePoints(mesh, 'top')[5]!] })], cues, ...more },
  });
const shotOf = (things: Thing[], more: object = {}): Shot =>
  createShot({ name: 'Cues', things, lastFrame: 24, run: { substeps: 20 }, ...more });

const bakeAll = (shot: Shot) => {
  const run = new BakeRun(shot, none);
  return Array.from({ length: shot.lastFrame - shot.firstFrame + 1 }, () => run.next());
};
/** How wide the cloth is along its warp, in m. */
function width(positions: Float32Array): number {
  const xs = [...positions.filter((_, i) => i % 3 === 0)];
  return Math.max(...xs) - Math.min(...xs);
}

describe('cues', () => {
  it('take a number to a value over their frames, from their frame on', () => {
    const frames = bakeAll(shotOf([hung([cue({ kind: 'frame', frame: 8 })])]));
    expect(frames[6]!.stats.cues).toEqual({ cue: 0 });
    expect(frames[7]!.stats.cues).toEqual({ cue: count });
    expect(width(frames[6]!.positions[0]!)).toBeGreaterThan(0.39);
    expect(width(frames[23]!.positions[0]!)).toBeLessThan(0.34);
  });

  it('cost nothing where there are none, and change nothing before they happen', () => {
    const without = shotOf([hung([])]);
    expect(RunCues.of(without, none, compile(without, none))).toBeNull();
    const off = shotOf([hung([cue({ kind: 'frame', frame: 1 }, { enabled: false })])]);
    expect(RunCues.of(off, none, compile(off, none))).toBeNull();
    expect(changedInputs(runInputs(without, none), runInputs(off, none))).toEqual([]);
    const later = bakeAll(shotOf([hung([cue({ kind: 'frame', frame: 99 })])]));
    bakeAll(without).forEach(({ stats }, i) => expect(later[i]!.stats.fingerprint).toBe(stats.fingerprint));
  });

  it('happen to the points that touch a thing, and as far around as they spread', () => {
    const ball = createCollider({
      id: 'ball',
      name: 'Ball',
      shape: { kind: 'ball', radius: 0.06 },
      position: [0, 0.9, 0],
    });
    const falling = (rest: Partial<Cue>) => {
      const when = { kind: 'touch', thing: 'ball', within: 0.005 } as const;
      const cloth = createCloth({
        ...{ id: 'c', name: 'Cloth', shape: SHAPE, position: [0, 1, 0] },
        cues: [cue(when, { number: 'bendWarp', to: 1e-6, ...rest })],
      });
      return bakeAll(shotOf([cloth, ball], { lastFrame: 8 }));
    };
    const near = falling({});
    expect(near[1]!.stats.cues!['cue']).toBe(0);
    const touched = near.at(-1)!.stats.cues!['cue']!;
    expect(touched).toBeGreaterThan(0);
    expect(touched).toBeLessThan(count / 2);
    expect(falling({ spread: 0.1 }).at(-1)!.stats.cues!['cue']).toBeGreaterThan(touched + 8);
    expect(falling({ onAll: true }).at(-1)!.stats.cues!['cue']).toBe(count);
  });

  it('wait for a mask, for stretch and for speed', () => {
    const half = writeMask(Uint8Array.from({ length: count }, (_, i) => (mesh.positions[i * 3]! > 0 ? 255 : 0)));
    const masks = [{ id: 'm', name: 'Mask', values: half, ramp: null }];
    const masked = bakeAll(
      shotOf([hung([cue({ kind: 'masked', mask: 'm', above: 0.5 })], { masks })], { lastFrame: 3 }),
    );
    const right = [...mesh.positions.filter((_, i) => i % 3 === 0)].filter((x) => x > 0).length;
    expect(masked.at(-1)!.stats.cues).toEqual({ cue: right });
    const fast = bakeAll(shotOf([hung([cue({ kind: 'faster', than: 0.5 })], { pinSets: [] })], { lastFrame: 8 }));
    expect(fast[0]!.stats.cues).toEqual({ cue: 0 });
    expect(fast.at(-1)!.stats.cues!['cue']).toBeGreaterThan(count / 4);
    const still = bakeAll(shotOf([hung([cue({ kind: 'slower', than: 0.001 })])], { lastFrame: 2 }));
    expect(still.at(-1)!.stats.cues).toEqual({ cue: count });
    // It hangs by one point: there it is stretched most.
    const heavy = hung([cue({ kind: 'stretched', beyond: 0.01 }, { number: 'damping', to: 0.05 })], {
      fabric: { stretchWarp: 30, stretchWeft: 30, shear: 15 },
    });
    const drawn = bakeAll(shotOf([heavy]));
    expect(drawn.at(-1)!.stats.cues!['cue']).toBeGreaterThan(0);
    expect(drawn.at(-1)!.stats.cues!['cue']).toBeLessThan(count);
  });

  it('wait for points to come into a thing, and for a hold to let go of them', () => {
    const room = createScenery({
      ...{ id: 'room', name: 'Room', position: [0.1, 1, 0], rotation: [0.3, 0.5, 0] },
      shape: { kind: 'box', width: 0.3, height: 0.5, depth: 0.3 },
    });
    const within = bakeAll(shotOf([hung([cue({ kind: 'inside', thing: 'room' })]), room], { lastFrame: 2 }));
    const back = invertPose(poseAt(shotOf([room]), room, 1));
    const cloth = hung([]);
    const inside = compile(shotOf([cloth]), none).cloths[0]!.positions;
    const wanted = Array.from({ length: count }, (_, point) => applyPose(back, pointAt(inside, point))).filter(
      ([x, y, z]) => Math.abs(x) < 0.15 && Math.abs(y) < 0.25 && Math.abs(z) < 0.15,
    ).length;
    expect(wanted).toBeGreaterThan(3);
    expect(wanted).toBeLessThan(count - 3);
    expect(within[1]!.stats.cues).toEqual({ cue: wanted });
    const masks = [
      {
        id: 'm',
        name: 'Mask',
        values: '',
        ramp: { kind: 'straight', from: [0, 0], to: [1, 0], waves: false, inverted: false, phase: 0 },
      },
    ];
    const all = Array.from({ length: count }, (_, point) => point);
    const pins = { ...createPinSet({ name: 'Pins', points: all, release: 'm' }), id: 'pins' };
    const keys = [
      {
        number: 'hold:pins.released',
        knots: [1, 9].map((frame) => ({ frame, value: frame === 9 ? 1 : 0, ease: 'linear' as const })),
      },
    ];
    const freed = bakeAll(
      shotOf([hung([cue({ kind: 'released', hold: 'pins' })], { pinSets: [pins], masks, keys })], { lastFrame: 10 }),
    );
    const counts = freed.map(({ stats }) => stats.cues!['cue']!);
    expect(counts[0]).toBe(0);
    expect(counts[4]).toBeGreaterThan(0);
    expect(counts[4]).toBeLessThan(count);
    expect(counts.at(-1)).toBe(count);
  });

  it('know of each point when it happened there first', () => {
    const masks = [
      {
        ...{ id: 'm', name: 'Mask', values: '' },
        ramp: { kind: 'straight', from: [0, 0], to: [1, 0], waves: false, inverted: false, phase: 0 },
      },
    ];
    const phases = [1, 9].map((frame) => ({ frame, value: frame === 9 ? 0.6 : -0.6, ease: 'linear' as const }));
    const keys = [{ number: 'mask:m.phase', knots: phases }];
    const shot = shotOf([hung([cue({ kind: 'masked', mask: 'm', above: 0.5 })], { masks, keys })]);
    const run = new BakeRun(shot, none);
    const counts = Array.from({ length: 12 }, () => run.next().stats.cues!['cue']!);
    const { since } = run.checkpoint().state.cues!['cue']!;
    expect(counts.at(-1)).toBeGreaterThan(0);
    expect(new Set(counts).size).toBeGreaterThan(4);
    for (const frame of [3, 5, 8]) {
      const byThen = since.filter((first) => first <= frame).length;
      expect(byThen).toBe(Math.max(...counts.slice(0, frame)));
    }
    const on = new BakeRun(shot, none, run.checkpoint());
    on.next();
    expect([...on.checkpoint().state.cues!['cue']!.since.slice(0, 5)]).toEqual([...since.slice(0, 5)]);
  });

  it('change what holds the cloth, how a collider touches, and the air, over the frames that they take', () => {
    const pins = { ...createPinSet({ name: 'Pins', points: sidePoints(mesh, 'top') }), id: 'pins' };
    const lets = cue({ kind: 'frame', frame: 4 }, { of: 'c', number: 'hold:pins.strength', to: 0, over: 2 });
    const low = (positions: Float32Array) => Math.min(...positions.filter((_, i) => i % 3 === 1));
    const frames = bakeAll(shotOf([hung([lets], { pinSets: [pins] })], { lastFrame: 14 }));
    const falls = frames.map(({ positions }) => low(positions[0]!));
    expect(falls[0]! - falls[2]!).toBeLessThan(0.001);
    // Half free at the end of the fourth frame, free at that of the fifth.
    expect(falls[4]! - falls[13]!).toBeGreaterThan(0.3);
    const blows = createAir({ id: 'wind', name: 'Wind', air: { kind: 'wind', speed: 0 } });
    const gust = cue({ kind: 'frame', frame: 6 }, { of: 'wind', number: 'air.speed', to: 12, over: 1 });
    const away = (cues: Cue[]) => {
      const shot = shotOf([hung(cues, { pinSets: [pins] }), blows], { lastFrame: 12 });
      return bakeAll(shot).map(({ positions }) =>
        Math.max(...positions[0]!.map((value, i) => (i % 3 === 1 ? 0 : Math.abs(value)))),
      );
    };
    const [blown, still] = [away([gust]), away([])];
    expect(blown[4]).toBe(still[4]);
    expect(blown[11]! - still[11]!).toBeGreaterThan(0.05);
  });

  it('let a hold go point by point, where it happens', () => {
    const half = writeMask(Uint8Array.from({ length: count }, (_, i) => (mesh.positions[i * 3]! > 0.001 ? 255 : 0)));
    const masks = [{ id: 'm', name: 'Mask', values: half, ramp: null }];
    const top = sidePoints(mesh, 'top');
    const pins = { ...createPinSet({ name: 'Pins', points: top }), id: 'pins' };
    const lets = (onAll: boolean) =>
      cue({ kind: 'masked', mask: 'm', above: 0.5 }, { of: 'c', number: 'hold:pins.strength', to: 0, over: 1, onAll });
    const fell = (onAll: boolean) => {
      const frames = bakeAll(shotOf([hung([lets(onAll)], { pinSets: [pins], masks })], { lastFrame: 16 }));
      const [start, end] = [frames[0]!.positions[0]!, frames.at(-1)!.positions[0]!];
      return top.map((point) => start[point * 3 + 1]! - end[point * 3 + 1]!);
    };
    expect(Math.min(...fell(true))).toBeGreaterThan(0.2);
    const falls = fell(false);
    top.forEach((point, i) => {
      if (mesh.positions[point * 3]! <= 0.001) expect(falls[i]).toBeLessThan(1e-6);
      else expect(falls[i]).toBeGreaterThan(5e-4);
    });
  });

  it('slide where a collider loses its grip, and go on from any frame bit for bit', () => {
    const slope = createCollider({
      ...{ id: 'slope', name: 'Slope', friction: 1, rotation: [0, 0, 0.4] },
      shape: { kind: 'box', width: 2, height: 0.1, depth: 1 },
    });
    const ice = cue({ kind: 'frame', frame: 8 }, { of: 'slope', number: 'friction', to: 0, over: 4 });
    const cloth = createCloth({
      ...{ id: 'c', name: 'Cloth', shape: SHAPE, position: [0, 0.06, 0], rotation: [0, 0, 0.4], cues: [ice] },
    });
    const shot = shotOf([cloth, slope], { lastFrame: 20 });
    const run = new BakeRun(shot, none);
    const frames = Array.from({ length: 10 }, () => run.next());
    const checkpoint = run.checkpoint();
    for (let frame = 11; frame <= 20; frame++) frames.push(run.next());
    const middle = (frame: number) =>
      frames[frame - 1]!.positions[0]!.reduce((sum, value, i) => sum + (i % 3 === 0 ? value : 0), 0) / count;
    expect(Math.abs(middle(8) - middle(2))).toBeLessThan(0.01);
    expect(middle(20) - middle(10)).toBeLessThan(-0.1);
    const on = new BakeRun(shot, none, checkpoint);
    for (let frame = 11; frame <= 20; frame++)
      expect(on.next().stats.fingerprint).toBe(frames[frame - 1]!.stats.fingerprint);
  });

  it('whose target was deleted change nothing, and a number out of its range stays in it', () => {
    const gone = cue({ kind: 'frame', frame: 2 }, { of: 'nothing', number: 'friction', to: 0 });
    const frames = bakeAll(shotOf([hung([gone])], { lastFrame: 4 }));
    expect(frames.at(-1)!.stats.cues).toEqual({ cue: count });
    const box = createCollider({ id: 'box', name: 'Box', friction: 0.5 });
    const wild = cue({ kind: 'frame', frame: 2 }, { of: 'box', number: 'friction', to: -40, over: 1 });
    const shot = withLiveTracks(shotOf([hung([wild]), box]));
    const track = liveTracks(shot)[0]!;
    track.goTo(2, () => ({ before: Float32Array.of(0, 0), after: Float32Array.of(0, 1) }));
    expect(track.knots.map(({ value }) => value)).toEqual([0.5, 0]);
  });

  it('make cloth smooth, on things and on itself, and go on from any frame bit for bit', () => {
    const slope = createCollider({
      ...{ id: 'slope', name: 'Slope', friction: 1, rotation: [0, 0, 0.4] },
      shape: { kind: 'box', width: 2, height: 0.1, depth: 1 },
    });
    const cloth = (id: string, above: number, cues: Cue[]) =>
      createCloth({
        ...{ id, name: id, shape: SHAPE, rotation: [0, 0, 0.4], fabric: { friction: 0.8 }, cues },
        position: [-0.39 * above, 0.06 + 0.92 * above, 0],
      });
    const wet = cue({ kind: 'frame', frame: 8 }, { number: 'friction', to: 0, over: 2 });
    const shot = shotOf([cloth('low', 0, [wet]), cloth('high', 0.004, []), slope], { lastFrame: 20 });
    const run = new BakeRun(shot, none);
    const frames = Array.from({ length: 12 }, () => run.next());
    const checkpoint = run.checkpoint();
    for (let frame = 13; frame <= 20; frame++) frames.push(run.next());
    const middle = (frame: number, of: number) =>
      frames[frame - 1]!.positions[of]!.reduce((sum, value, i) => sum + (i % 3 === 0 ? value : 0), 0) / count;
    expect(Math.abs(middle(8, 0) - middle(3, 0))).toBeLessThan(0.01);
    expect(middle(20, 0) - middle(10, 0)).toBeLessThan(-0.1);
    // Drawn away from under it: what lies on top is gripped no more.
    expect(middle(20, 1) - middle(10, 1)).toBeLessThan(-0.1);
    const on = new BakeRun(shot, none, checkpoint);
    for (let frame = 13; frame <= 20; frame++)
      expect(on.next().stats.fingerprint).toBe(frames[frame - 1]!.stats.fingerprint);
  });

  it('make cloth heavy: it hangs as one that weighs as much from the start', () => {
    const soft = { weight: 0.1, stretchWarp: 200, stretchWeft: 200, squeeze: 1, damping: 0.1 };
    const top = [createPinSet({ name: 'Top', points: sidePoints(mesh, 'top') })];
    const soaked = cue({ kind: 'frame', frame: 4 }, { number: 'weight', to: 0.5, over: 6 });
    const hang = (cues: Cue[], weight: number) =>
      bakeAll(shotOf([hung(cues, { fabric: { ...soft, weight }, pinSets: top })], { lastFrame: 60 })).map(
        ({ positions }) => 0.8 - Math.min(...positions[0]!.filter((_, i) => i % 3 === 1)),
      );
    const [light, heavy, wet] = [hang([], 0.1), hang([], 0.5), hang([soaked], 0.1)];
    expect(heavy.at(-1)! / light.at(-1)!).toBeGreaterThan(1.4);
    expect(Math.abs(wet.at(-1)! / heavy.at(-1)! - 1)).toBeLessThan(0.02);
  });

  it('make cloth thick: what lies on it is lifted, and nothing passes through', () => {
    const table = createCollider({
      ...{ id: 'table', name: 'Table', clearance: 0.001, position: [0, 0.05, 0] },
      shape: { kind: 'box', width: 1, height: 0.1, depth: 1 },
    });
    const lying = (id: string, y: number, thickness: number, cues: Cue[] = []) =>
      createCloth({ ...{ id, name: id, shape: SHAPE, position: [0, y, 0], fabric: { thickness }, cues } });
    const swell = cue({ kind: 'frame', frame: 6 }, { number: 'thickness', to: 0.008, over: 8 });
    const bakeOf = (low: Cloth, high: Cloth) => bakeAll(shotOf([low, high, table], { lastFrame: 30 }));
    const frames = bakeOf(lying('low', 0.102, 0.001, [swell]), lying('high', 0.104, 0.001));
    const thick = bakeOf(lying('low', 0.106, 0.008), lying('high', 0.112, 0.001)).at(-1)!;
    const mean = ({ positions }: (typeof frames)[number], of: number) =>
      positions[of]!.reduce((sum, y, i) => sum + (i % 3 === 1 ? y : 0), 0) / count;
    // Clearance and half its thickness off the table.
    expect(Math.abs(mean(frames[4]!, 0) - 0.1015)).toBeLessThan(1e-4);
    expect(Math.abs(mean(frames[29]!, 0) - 0.105)).toBeLessThan(1e-4);
    // As far off each other as cloth that is as thick from the start.
    const gap = (frame: (typeof frames)[number]) => mean(frame, 1) - mean(frame, 0);
    expect(gap(frames[4]!)).toBeLessThan(0.0012);
    expect(gap(frames[29]!)).toBeGreaterThan(0.0018);
    expect(Math.abs(gap(frames[29]!) - gap(thick))).toBeLessThan(1e-4);
    for (const { stats } of frames) expect([stats.crossings, stats.pierced]).toEqual([0, 0]);
  });

  it('last as long as it happens, or stay', () => {
    const moment = (lasts: boolean) => {
      const phases = [-1, 1, -1].map((value, at) => ({ frame: 1 + 4 * at, value, ease: 'linear' as const }));
      const keys = [{ number: 'mask:m.phase', knots: phases }];
      const ramp = { kind: 'straight', from: [0, 0], to: [1, 0], waves: false, inverted: false, phase: 0 };
      const masks = [{ id: 'm', name: 'Mask', values: '', ramp }];
      const cloth = hung([cue({ kind: 'masked', mask: 'm', above: 0.9 }, { lasts, over: 2 })], { masks, keys });
      return bakeAll(shotOf([cloth], { lastFrame: 16 })).map(({ stats }) => stats.cues!['cue']!);
    };
    const [stays, goes] = [moment(false), moment(true)];
    expect(Math.max(...stays)).toBeGreaterThan(0);
    expect(stays.at(-1)).toBe(Math.max(...stays));
    expect(Math.max(...goes)).toBeGreaterThan(0);
    expect(goes.at(-1)).toBe(0);
  });

  it('begin from nothing: pressure that a fabric has not', () => {
    const swell = cue({ kind: 'frame', frame: 3 }, { number: 'pressure', to: 20, over: 2 });
    const shot = shotOf(
      [hung([swell], { pinSets: [createPinSet({ name: 'All around', points: sidePoints(mesh, 'top') })] })],
      {
        gravity: { enabled: false },
        lastFrame: 8,
      },
    );
    const frames = bakeAll(shot);
    const out = (positions: Float32Array) => Math.max(...positions.filter((_, i) => i % 3 === 2).map(Math.abs));
    expect(out(frames[1]!.positions[0]!)).toBeLessThan(1e-5);
    expect(out(frames[7]!.positions[0]!)).toBeGreaterThan(0.01);
  });

  it('go on from a saved state bit for bit, and in a live run from where they are', () => {
    const shot = shotOf([
      hung([
        cue({ kind: 'frame', frame: 6 }, { over: 10 }),
        cue({ kind: 'faster', than: 0.4 }, { id: 'two', number: 'bendWeft', to: 1e-6, lasts: true }),
      ]),
    ]);
    const whole = bakeAll(shot);
    const begun = new BakeRun(shot, none);
    for (let frame = 1; frame <= 9; frame++) begun.next();
    const resumed = new BakeRun(shot, none, structuredClone(begun.checkpoint()));
    for (let frame = 10; frame <= 24; frame++) {
      expect(resumed.next().stats.fingerprint).toBe(whole[frame - 1]!.stats.fingerprint);
    }
    const live = new PacedSolver(shot, none, compile(shot, none), { live: true });
    for (let frame = 0; frame < 9; frame++) live.advance();
    const reached = live.cueCounts();
    expect(reached!['cue']).toBe(count);
    const other = shotOf([hung([{ ...(shot.things[0]!['cues' as never][0] as Cue), to: 0.6 }])]);
    const frozen = { ...other, things: [{ ...other.things[0]!, shape: (shot.things[0] as Cloth).shape }] } as Shot;
    if (live.take(frozen, none, compile(frozen, none))) expect(live.cueCounts()).toEqual({ cue: count });
  });

  it('are bounded: many at once, in a circle, and of things that are gone', () => {
    const many = Array.from({ length: 200 }, (_, i) =>
      cue(i % 2 ? { kind: 'faster', than: 0.1 } : { kind: 'touch', thing: 'gone', within: 0.1 }, {
        ...{ id: `cue-${i}`, number: i % 3 ? 'stretchWarp' : 'airAcross', lasts: i % 5 === 0 },
      }),
    ).map((one) => ({ ...one, to: one.number === 'stretchWarp' ? 200 : 2 }));
    const frames = bakeAll(shotOf([hung(many)], { lastFrame: 10 }));
    expect(frames.at(-1)!.positions[0]!.every(Number.isFinite)).toBe(true);
  });
});
