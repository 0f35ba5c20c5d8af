import { describe, expect, it } from 'vitest';
import { checkShot } from '../checks';
import { bounds } from '../mesh/bounds';
import type { Mesh, Motion } from '../mesh/mesh';
import { box } from '../mesh/shapes/box';
import { ball } from '../mesh/shapes/ball';
import { cylinder } from '../mesh/shapes/cylinder';
import { splitOff } from '../mesh/splitOff';
import { isClosed, topology } from '../mesh/topology';
import { signedVolume } from '../mesh/volume';
import { BakeRun } from '../run/bakeRun';
import { thingMeshAt } from '../run/thingMeshAt';
import { facesUpTo } from '../select/facesUpTo';
import { grownFaces, shrunkFaces } from '../select/growFaces';
import { createCollider, createShot } from './create';
import { edit } from './edit';
import { splitThing } from './splitThing';
import type { Cloth } from './schema';

const crate = () => box({ size: [0.6, 0.4, 0.5] });
/** The faces of a mesh that lie highest. */
function topOf(mesh: Mesh): number[] {
  const high = bounds(mesh.positions)!.high[1];
  const isHigh = (point: number) => mesh.positions[point * 3 + 1]! > high - 1e-6;
  return Array.from({ length: mesh.triangles.length / 3 }, (_, face) => face).filter((face) =>
    [0, 1, 2].every((i) => isHigh(mesh.triangles[face * 3 + i]!)),
  );
}

describe('faces', () => {
  it('are taken up to an angle: a side of a box, all of a ball, the mantle of a cylinder', () => {
    const mesh = crate();
    const [first] = topOf(mesh);
    expect(facesUpTo(mesh, [first!], 0.2)).toEqual(topOf(mesh));
    const round = ball({ radius: 0.2, detail: 3 });
    expect(facesUpTo(round, [0], 0.5)).toHaveLength(round.triangles.length / 3);
    const pipe = cylinder({ radius: 0.1, height: 0.4, segments: 24 });
    const mantle = facesUpTo(pipe, [...Array(pipe.triangles.length / 3).keys()].slice(0, 1), 0.6);
    expect(mantle.length).toBeLessThan(pipe.triangles.length / 3);
  });

  it('grow by those beside them, and shrink back', () => {
    const round = ball({ radius: 0.2, detail: 3 });
    const some = grownFaces(round, grownFaces(round, [0]));
    expect(some.length).toBeGreaterThan(5);
    expect(grownFaces(round, some).length).toBeGreaterThan(some.length);
    expect(shrunkFaces(round, grownFaces(round, some))).toEqual(some);
  });
});

describe('splitting a mesh', () => {
  it('takes faces off, closes what remains, and tells which points stay with it', () => {
    const mesh = crate();
    const whole = signedVolume(mesh);
    const { piece, border, rest } = splitOff(mesh, topOf(mesh));
    expect(isClosed(topology(rest!))).toBe(true);
    expect(signedVolume(rest!)).toBeCloseTo(whole, 6);
    const t = topology(piece);
    const rim = new Set([...t.edgePoints].filter((_, i) => t.edgeFaces[(i >> 1) * 2 + 1]! < 0));
    expect(border).toEqual([...rim].sort((a, b) => a - b));
    expect(isClosed(topology(splitOff(mesh, topOf(mesh), { closed: false }).rest!))).toBe(false);
  });

  it('divides what comes off, its border too, and leaves its surface where it is', () => {
    const mesh = crate();
    const [coarse, fine] = [0, 2].map((divided) => splitOff(mesh, topOf(mesh), { divided }));
    expect(fine!.piece.triangles.length).toBe(16 * coarse!.piece.triangles.length);
    const t = topology(fine!.piece);
    const rim = new Set([...t.edgePoints].filter((_, i) => t.edgeFaces[(i >> 1) * 2 + 1]! < 0));
    expect(fine!.border).toEqual([...rim].sort((a, b) => a - b));
    expect(bounds(fine!.piece.positions)).toEqual(bounds(coarse!.piece.positions));
  });

  it('leaves borders open that were open before, and their points free', () => {
    // Without its bottom, the crate has a border of its own.
    const mesh = crate();
    const low = bounds(mesh.positions)!.low[1];
    const open: Mesh = {
      positions: mesh.positions,
      triangles: mesh.triangles.filter((_, i) => {
        const face = i - (i % 3);
        return ![0, 1, 2].every((k) => mesh.positions[mesh.triangles[face + k]! * 3 + 1]! < low + 1e-6);
      }),
    };
    const { rest } = splitOff(open, topOf(open));
    expect(topology(rest!).borderEdges).toBe(topology(open).borderEdges);
  });
});

/** A crate that sways: its upper points are carried by a second bone. */
function swaying(): Mesh {
  const mesh = crate();
  const count = mesh.positions.length / 3;
  const samples = 25;
  const matrices = new Float32Array(samples * 2 * 12);
  for (let sample = 0; sample < samples; sample++) {
    for (const bone of [0, 1]) {
      const x = bone === 1 ? 0.15 * Math.sin((sample / 24) * 2 * Math.PI) : 0;
      matrices.set([1, 0, 0, x, 0, 1, 0, 0, 0, 0, 1, 0], (sample * 2 + bone) * 12);
    }
  }
  const joints = new Uint16Array(count * 4);
  const weights = new Float32Array(count * 4);
  for (let i = 0; i < count; i++) {
    joints[i * 4] = mesh.positions[i * 3 + 1]! > 0.19 ? 1 : 0;
    weights[i * 4] = 1;
  }
  const motion: Motion = {
    ...{ bind: mesh.positions.slice(), joints, weights, bones: 2, targets: [] },
    clips: [{ name: 'Sway', rate: 24, samples, matrices, targetWeights: new Float32Array() }],
  };
  return { ...mesh, motion };
}

describe('a thing that cloth is split off', () => {
  it('keeps the cloth at its border while it moves, turns and sways; the cloth sags between', () => {
    const mesh = swaying();
    const { piece, border, rest } = splitOff(mesh, topOf(mesh), { divided: 3, room: 0.0065 });
    const assets = new Map([
      ['whole', mesh],
      ['piece', piece],
      ['rest', rest!],
    ]);
    expect(rest!.motion).toBeDefined();
    const key = (number: string, to: number) => ({
      number,
      knots: [
        { frame: 1, value: 0, ease: 'linear' as const },
        { frame: 24, value: to, ease: 'linear' as const },
      ],
    });
    const thing = createCollider({
      ...{ id: 'crate', name: 'Crate', shape: { kind: 'mesh', asset: 'whole' }, position: [0, 0.5, 0] },
      keys: [key('position.x', 0.8), key('rotation.y', 0.6)],
      motion: { clip: 'Sway', start: 1, repeat: false },
    });
    const before = createShot({ name: 'x', things: [thing], lastFrame: 24 });
    const { shot } = edit(before, 'Split off', (draft) =>
      splitThing(draft, 'crate', { piece: 'piece', rest: 'rest', border }, 'cloth'),
    );
    const cloth = shot.things.find((one): one is Cloth => one.role === 'cloth')!;
    expect(cloth).toMatchObject({ id: 'cloth', name: 'Cloth of Crate', parent: 'crate' });
    const run = new BakeRun(shot, assets);
    let most = 0;
    for (let frame = 1; frame <= 24; frame++) {
      const baked = run.next();
      const stays = thingMeshAt(shot, { ...cloth, start: null }, assets, frame).positions;
      for (const point of border) {
        const off = Math.hypot(...[0, 1, 2].map((k) => baked.positions[0]![point * 3 + k]! - stays[point * 3 + k]!));
        expect(off).toBeLessThan(5e-5);
      }
      most = Math.max(most, ...baked.positions[0]!.map((value, i) => Math.abs(value - stays[i]!)));
      expect(baked.stats.crossings).toBe(0);
      expect(baked.stats.pierced).toBe(0);
      expect(baked.stats.substeps).toBeLessThan(400);
    }
    expect(most).toBeGreaterThan(0.002);
    expect(checkShot(shot, assets, { bake: null, bytesFree: null })).toEqual([]);
  });
});
