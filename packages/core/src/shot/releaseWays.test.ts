import { describe, expect, it } from 'vitest';
import { createCloth, createPinSet, createShot } from './create';
import { edit } from './edit';
import { pointCount } from '../mesh/mesh';
import { RELEASE_WAYS, releaseBy } from './releaseWays';
import { releaseFrames } from './release';
import type { Cloth, Shot } from './schema';
import { shapeMesh } from './shapes';

const shape = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.05 } as const;
const mesh = shapeMesh(shape, new Map());
const all = Array.from({ length: pointCount(mesh) }, (_, point) => point);

function shotOf(more: Partial<Shot> = {}): Shot {
  const cloth = createCloth({
    ...{ id: 'c', name: 'Apron', shape },
    pinSets: [createPinSet({ id: 'ice', name: 'Ice', points: all })],
  });
  return createShot({ name: 'Night', things: [cloth], ...more });
}
const released = (shot: Shot, way: string, frame: number): Shot =>
  edit(shot, 'lets go', (draft) => void releaseBy(draft, { cloth: 'c', hold: 'ice' }, way, 'Release', frame)).shot;

describe('a new way to let go', () => {
  it.each(RELEASE_WAYS.map(({ id }) => id))('frees all points, from %s over two seconds', (way) => {
    const shot = released(shotOf(), way, 10);
    const cloth = shot.things[0] as Cloth;
    const frames = releaseFrames(cloth, cloth.pinSets[0]!, mesh, shot)!;
    expect(Math.min(...frames)).toBeGreaterThan(10);
    expect(Math.max(...frames)).toBe(10 + 2 * shot.frameRate);
    expect(new Set(frames).size).toBeGreaterThan(5);
  });

  it.each([
    ['corner', [0.2, -0.2]],
    ['side', [0.2, null]],
    ['far', [null, -0.2]],
    ['middle', [0, 0]],
  ] as const)('begins where it says: %s', (way, [x, z]) => {
    const shot = released(shotOf(), way, 10);
    const cloth = shot.things[0] as Cloth;
    const frames = releaseFrames(cloth, cloth.pinSets[0]!, mesh, shot)!;
    const first = all.filter((point) => frames[point] === Math.min(...frames));
    for (const point of first) {
      // The far side of a new sheet is at -z, its right side at +x.
      if (x !== null) expect(mesh.positions[point * 3]).toBeCloseTo(x, 5);
      if (z !== null) expect(mesh.positions[point * 3 + 2]).toBeCloseTo(z, 5);
    }
    expect(first.length).toBe(x === null || z === null ? 9 : 1);
  });

  it('takes the place of the keys that were there, and ends with the shot', () => {
    const shot = released(released(shotOf({ lastFrame: 30 }), 'corner', 4), 'middle', 30);
    const cloth = shot.things[0] as Cloth;
    expect(cloth.keys).toHaveLength(1);
    expect(cloth.keys[0]!.knots.map(({ frame }) => frame)).toEqual([29, 30]);
    expect(cloth.pinSets[0]!.release).toBe(cloth.masks[1]!.id);
  });
});
