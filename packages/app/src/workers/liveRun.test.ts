import {
  createCloth,
  createCollider,
  createPinSet,
  createShot,
  cueSchema,
  edit,
  makePiece,
  rectangleNodes,
  shapeMesh,
  type Cloth,
  type PatternShape,
  type Shot,
} from '@lumbra/core';
import { describe, expect, it } from 'vitest';
import { LiveRun } from './liveRun';

const SHAPE = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.05 } as const;
/** Its points, nine by nine, row by row. */
const COUNT = 81;
const none = new Map<string, never>();

function hung(): Shot {
  const pins = createPinSet({ id: 'corners', name: 'Corners', points: [0, 8] });
  const cloth = createCloth({ id: 'c', name: 'Cloth', shape: SHAPE, position: [0, 1, 0], pinSets: [pins] });
  return createShot({ id: 's', name: 'Live', run: { substeps: 20 }, things: [cloth] });
}

const changed = (shot: Shot, recipe: (cloth: Cloth) => void) =>
  edit(shot, 'Change', (draft) => recipe(draft.things[0] as Cloth)).shot;

function run(live: LiveRun, frames: number) {
  for (let frame = 1; frame < frames; frame++) live.next();
  return live.next();
}

const place = (positions: Float32Array, point: number) => [...positions.subarray(point * 3, point * 3 + 3)];
const apart = (a: number[], b: number[]) => Math.hypot(...a.map((value, axis) => value - b[axis]!));
/** The farthest that any point went between two poses, in m. */
function farthest(a: Float32Array, b: Float32Array): number {
  return Math.max(...Array.from({ length: a.length / 3 }, (_, point) => apart(place(a, point), place(b, point))));
}

describe('a live run', () => {
  it('promises nothing of a still that is kept of it, at any quality, and takes no frame again', () => {
    const live = new LiveRun({ ...hung(), run: { quality: 'shot', substeps: null } }, none);
    run(live, 4);
    expect(live.still().stats).toMatchObject({ kept: null, retakes: 0 });
  });

  it('goes on in the time of the shot, and says whose positions it gives', () => {
    const live = new LiveRun(hung(), none);
    const pose = run(live, 6);
    expect(pose.time).toBeCloseTo(6 / 24, 9);
    expect(pose.cloths).toEqual(['c']);
    expect(pose.positions[0]).toHaveLength(COUNT * 3);
    expect(pose.checkpoints).toEqual([0]);
  });

  it('tells how many points its cues have reached, also of one that comes while it goes on', () => {
    const cue = (frame: number) =>
      cueSchema.parse({
        ...{
          id: 'soft',
          name: 'Soft',
          when: { kind: 'frame', frame },
          of: 'c',
          number: 'hold:corners.strength',
          to: 0,
        },
        over: 1,
      });
    const live = new LiveRun(hung(), none);
    expect(run(live, 2).cues).toBeUndefined();
    live.update(
      changed(hung(), (cloth) => void cloth.cues.push(cue(7))),
      none,
    );
    expect(run(live, 2).cues).toEqual({ soft: 0 });
    const before = run(live, 1).positions[0]!;
    const pose = run(live, 8);
    expect(pose.cues).toEqual({ soft: COUNT });
    // Let go by its corners, it falls.
    expect(place(before, 0)[1]! - place(pose.positions[0]!, 0)[1]!).toBeGreaterThan(0.1);
  });

  it('takes a changed fabric over from where the cloth is', () => {
    const live = new LiveRun(hung(), none);
    const before = run(live, 12);
    live.update(
      changed(hung(), (cloth) => (cloth.fabric.weight = 0.9)),
      none,
    );
    const after = live.next();
    expect(after.time).toBeCloseTo(before.time + 1 / 24, 9);
    expect(farthest(before.positions[0]!, after.positions[0]!)).toBeLessThan(0.15);
    expect(apart(place(after.positions[0]!, 0), place(before.positions[0]!, 0))).toBeLessThan(1e-5);
  });

  it('moves what is held when its pins are moved, and lets it fall when they are deleted', () => {
    const live = new LiveRun(hung(), none);
    const start = place(run(live, 4).positions[0]!, 8);
    const pulled = changed(hung(), (cloth) => (cloth.pinSets[0]!.move[0] = 0.1));
    live.update(pulled, none);
    const after = place(run(live, 2).positions[0]!, 8);
    expect(after[0]! - start[0]!).toBeCloseTo(0.1, 4);
    live.update(
      changed(pulled, (cloth) => (cloth.pinSets = [])),
      none,
    );
    expect(place(run(live, 12).positions[0]!, 8)[1]).toBeLessThan(after[1]! - 0.3);
  });

  it('computes only the newest of many changes', () => {
    const live = new LiveRun(hung(), none);
    live.next();
    for (const x of [0.5, 0.3, 0.05]) {
      live.update(
        changed(hung(), (cloth) => (cloth.pinSets[0]!.move[0] = x)),
        none,
      );
    }
    const start = shapeMesh(SHAPE, none).positions;
    expect(place(run(live, 2).positions[0]!, 0)[0]! - start[0]!).toBeCloseTo(0.05, 4);
  });

  it('begins the cloth anew when it gets other points, with that as its only checkpoint', () => {
    const live = new LiveRun(hung(), none);
    run(live, 10);
    live.checkpoint();
    const finer = changed(hung(), (cloth) => {
      cloth.shape = { ...SHAPE, spacing: 0.04 };
      cloth.pinSets[0]!.points = [0, 10];
    });
    live.update(finer, none);
    const pose = live.next();
    expect(pose.positions[0]).toHaveLength(11 * 11 * 3);
    expect(pose.checkpoints).toEqual([0]);
    live.back(false);
    expect(live.next().time).toBeCloseTo(1 / 24, 9);
  });

  it('goes back to checkpoints bit for bit, one by one, and never past its beginning', () => {
    const live = new LiveRun(hung(), none);
    run(live, 5);
    live.checkpoint();
    const sixth = live.next().positions[0]!;
    run(live, 5);
    live.checkpoint();
    expect(run(live, 3).checkpoints).toHaveLength(3);
    live.back(true);
    const again = live.next();
    expect(again.positions[0]).toEqual(sixth);
    expect(again.checkpoints.map((time) => Math.round(time * 24))).toEqual([0, 5]);
    for (let n = 0; n < 3; n++) live.back(true);
    const first = live.next();
    expect(first.checkpoints).toEqual([0]);
    expect(first.time).toBeCloseTo(1 / 24, 9);
  });

  it('forgets the oldest checkpoints, but never the first', () => {
    const live = new LiveRun(hung(), none);
    for (let n = 0; n < 40; n++) {
      live.next();
      live.checkpoint();
    }
    const { checkpoints } = live.next();
    expect(checkpoints).toHaveLength(21);
    expect(checkpoints[0]).toBe(0);
    expect(Math.round(checkpoints[1]! * 24)).toBe(21);
  });

  it('pulls gripped cloth to the hand, and lets it go', () => {
    const live = new LiveRun(hung(), none);
    const before = run(live, 30).positions[0]!;
    const lowest = 76;
    const hand = place(before, lowest).map((value, axis) => value + (axis === 1 ? 0.15 : 0));
    live.grip('c', place(before, lowest), 0.12);
    for (let step = 1; step <= 6; step++) {
      live.moveGrip([0, 0.025 * step, 0]);
      live.next();
    }
    const pulled = run(live, 6).positions[0]!;
    expect(apart(place(pulled, lowest), hand)).toBeLessThan(0.03);
    live.moveGrip(null);
    expect(run(live, 12).positions[0]![lowest * 3 + 1]).toBeLessThan(hand[1]! - 0.1);
  });

  it('grips nothing of cloth that is not in the run', () => {
    const live = new LiveRun(hung(), none);
    live.grip('elsewhere', [0, 1, 0], 1);
    live.moveGrip([0, 1, 0]);
    expect(place(run(live, 4).positions[0]!, 40)[1]).toBeLessThan(1);
  });

  it('says whose positions they are when another cloth joins', () => {
    const live = new LiveRun(hung(), none);
    run(live, 3);
    const two = edit(hung(), 'Add', (draft) => {
      draft.things.unshift(createCollider({ name: 'Ground', shape: { kind: 'ground' } }));
      draft.things.push(createCloth({ id: 'd', name: 'Other', shape: SHAPE, position: [1, 1, 0] }));
    }).shot;
    live.update(two, none);
    const pose = live.next();
    expect(pose.cloths).toEqual(['c', 'd']);
    expect(pose.positions.map(({ length }) => length)).toEqual([COUNT * 3, COUNT * 3]);
  });
});

describe('a live run of sewn pieces', () => {
  /** Front and back, 4 cm apart, sewn all around in two frames. */
  function sewnShot(): Shot {
    const piece = (id: string, more: object) =>
      makePiece({
        ...{ id, name: id, outline: rectangleNodes(0.2, 0.2).map((node, i) => ({ ...node, id: `${id}${i}` })) },
        ...more,
      });
    const side = (of: string, i: number) => ({ piece: of, from: `${of}${i}`, to: `${of}${(i + 1) % 4}` });
    const shape: PatternShape = {
      ...{ kind: 'pattern', spacing: 0.05, weave: 'along the grain', closing: 2 },
      pieces: [
        piece('f', { position: [0, 1, 0.02] }),
        piece('b', { position: [0, 1, -0.02], rotation: [0, Math.PI, 0] }),
      ],
      seams: [
        [1, 3],
        [3, 1],
      ].map(([a, b], i) => ({ id: `s${i}`, a: side('f', a!), b: side('b', b!), turned: false })),
    };
    return createShot({
      id: 's',
      name: 'Live',
      run: { substeps: 20 },
      things: [createCloth({ id: 'c', name: 'Bag', shape })],
    });
  }
  const gap = (shot: Shot, positions: Float32Array) => {
    const { sewn } = shapeMesh((shot.things[0] as Cloth).shape, none);
    return Math.max(...Array.from(sewn!, (first, point) => apart(place(positions, point), place(positions, first))));
  };

  it('starts anew when it is sewn otherwise, with its pieces where they were cut', () => {
    const shot = edit(sewnShot(), 'x', () => undefined).shot;
    const live = new LiveRun(shot, none);
    expect(gap(shot, run(live, 6).positions[0]!)).toBe(0);
    const turned = changed(shot, (cloth) => ((cloth.shape as PatternShape).seams[0]!.turned = true));
    live.update(turned, none);
    const first = live.next();
    expect(first.time).toBeLessThan(0.1);
    expect(gap(turned, first.positions[0]!)).toBeGreaterThan(0.02);
    expect(first.checkpoints).toEqual([0]);
    // Other numbers are taken over where it is.
    const heavier = changed(turned, (cloth) => (cloth.fabric.weight *= 2));
    run(live, 6);
    live.update(heavier, none);
    expect(live.next().time).toBeGreaterThan(0.2);
  });

  it('starts anew with its seams open when its outline has other points', () => {
    const shot = edit(sewnShot(), 'x', () => undefined).shot;
    const live = new LiveRun(shot, none);
    run(live, 6);
    const finer = changed(shot, (cloth) => ((cloth.shape as PatternShape).spacing = 0.04));
    live.update(finer, none);
    expect(gap(finer, live.next().positions[0]!)).toBeGreaterThan(0.02);
  });
});
