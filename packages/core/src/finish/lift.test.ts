import { describe, expect, it } from 'vitest';
import { finishTake } from '../exchange/finishTake';
import { boxTree } from '../mesh/boxTree';
import type { Mesh } from '../mesh/mesh';
import { nearestPlace } from '../mesh/nearestPlace';
import { place } from '../mesh/place';
import { sheet } from '../mesh/shapes/sheet';
import { insideMesh } from '../select/insideMesh';
import { createCloth, createCollider, createShot } from '../shot/create';
import { shapeMesh } from '../shot/shapes';
import { FinishList } from './finishCloth';
import { finishEntrySchema, type FinishEntry } from './steps';

const DISTANCE = 0.004;
const flat = sheet({ width: 0.5, height: 0.5, spacing: 0.02 });
const entry = (thing: string | null, distance = DISTANCE): FinishEntry =>
  finishEntrySchema.parse({ id: 'l', step: { kind: 'lift', thing, distance } });
const shapes = {
  ball: { kind: 'ball', radius: 0.2, detail: 4 },
  box: { kind: 'box', width: 0.3, height: 0.3, depth: 0.3 },
  cone: { kind: 'cone', radius: 0.2, height: 0.3 },
} as const;

function lifted(thing: Mesh, positions: Float32Array, mask: Float32Array | null = null): Float32Array {
  const one = mask ? { ...entry('t'), mask: 'm' } : entry('t');
  const list = new FinishList(flat, [one], { start: positions, meshes: new Map([['t', thing]]) });
  return list.place(positions, [one], () => mask, new Map([['t', thing]]));
}

describe('cloth that is lifted off a thing', () => {
  it.each(Object.entries(shapes))('%s: is outside, and as far off as it should be; the rest stays', (name, shape) => {
    const thing = shapeMesh(createCollider({ name: 'Thing', shape: shape as never }).shape, new Map());
    // A little into it, at its top.
    const high = Math.max(...thing.positions.filter((_, i) => i % 3 === 1));
    const tilted = place(flat, {
      position: [0.003, high - (name === 'cone' ? 0.04 : 0.006), 0.002],
      rotation: [0.05, 0.3, 0.04],
    }).positions;
    expect(insideMesh(thing, tilted).length).toBeGreaterThan(0);
    const found = lifted(thing, tilted);
    const tree = boxTree(thing);
    const away = (p: Float32Array, i: number) => nearestPlace(thing, tree, [p[i]!, p[i + 1]!, p[i + 2]!])!.distance;
    const inside = new Set(insideMesh(thing, tilted));
    for (let i = 0; i < found.length; i += 3) {
      expect(away(found, i)).toBeGreaterThan(DISTANCE - 2e-6);
      if (!inside.has(i / 3) && away(tilted, i) > DISTANCE) {
        expect([...found.subarray(i, i + 3)]).toEqual([...tilted.subarray(i, i + 3)]);
      }
    }
    expect(insideMesh(thing, found)).toEqual([]);
  });

  it('is left where it lies far on the other side: that of a thin wall it does not go through', () => {
    const thing = shapeMesh({ kind: 'box', width: 1, height: 0.2, depth: 1 } as never, new Map());
    const top = Math.max(...thing.positions.filter((_, i) => i % 3 === 1));
    const deep = flat.positions.map((value, i) => (i % 3 === 1 ? top - 0.08 : value));
    expect(lifted(thing, deep)).toEqual(deep);
  });

  it('is lifted as far as its mask says', () => {
    const thing = shapeMesh(shapes.ball as never, new Map());
    const at = flat.positions.map((value, i) => (i % 3 === 1 ? 0.195 : value));
    const count = flat.positions.length / 3;
    expect(lifted(thing, at, new Float32Array(count))).toEqual(at);
    const [half, whole] = [0.5, 1].map((value) => lifted(thing, at, new Float32Array(count).fill(value)));
    half!.forEach((value, i) => expect(value - at[i]!).toBeCloseTo((whole![i]! - at[i]!) / 2, 6));
  });

  it('is lifted off where a thing is at each frame', async () => {
    const keys = [
      {
        number: 'position.y',
        knots: [
          { frame: 1, value: -1, ease: 'linear' as const },
          { frame: 3, value: 0, ease: 'linear' as const },
        ],
      },
    ];
    const box = createCollider({ id: 'b', name: 'Box', shape: shapes.box as never, position: [0, -1, 0], keys });
    const shape = { kind: 'sheet', width: 0.5, height: 0.5, spacing: 0.02 } as const;
    const cloth = createCloth({ id: 'c', name: 'Cloth', shape, finish: [entry('b')] });
    const shot = createShot({ name: 'Rises', things: [cloth, box], lastFrame: 3 });
    const high = Math.max(...shapeMesh(box.shape, new Map()).positions.filter((_, i) => i % 3 === 1));
    const at = flat.positions.map((value, i) => (i % 3 === 1 ? high - 0.01 : value));
    async function* coming() {
      for (const frame of [1, 2, 3]) yield await Promise.resolve({ frame, positions: [at] });
    }
    const done = finishTake([{ cloth, mesh: flat }], { shot, assets: new Map(), finished: true });
    const moved: boolean[] = [];
    for await (const { positions } of done.frames(coming()))
      moved.push(positions[0]!.some((value, i) => value !== at[i]));
    expect(moved).toEqual([false, false, true]);
  });

  it('says what is missing', () => {
    expect(() => new FinishList(flat, [entry(null)])).toThrow(/choose the thing/);
    expect(() => new FinishList(flat, [entry('gone')])).toThrow(/no longer in the shot/);
  });
});
