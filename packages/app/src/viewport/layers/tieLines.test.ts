import {
  createCloth,
  createCollider,
  createShot,
  createTie,
  edit,
  placedMesh,
  setKnot,
  type Assets,
  type Cloth,
  type Mesh,
  type Shot,
} from '@lumbra/core';
import { describe, expect, it } from 'vitest';
import { tiedCloths, tieLines } from './tieLines';

const SHAPE = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.1 } as const;
const none = new Map<string, Mesh>();

function shot(to: 'rail' | 'other'): Shot {
  const hung = createCloth({
    ...{ id: 'c', name: 'Hood', shape: SHAPE, position: [0, 1, 0] },
    ties: [createTie({ id: 't', name: 'Hooks', points: [0, 2, 4], to })],
  });
  const rail = createCollider({
    ...{ id: 'rail', name: 'Rail', shape: { kind: 'box', width: 2, height: 0.1, depth: 2 }, position: [0, 1.2, 0] },
  });
  const other = createCloth({ id: 'other', name: 'Other', shape: SHAPE, position: [0, 1.1, 0] });
  return createShot({ name: 'Ties', things: [hung, rail, other] });
}

/** Cloths as they are cut, in their places. */
const cut = (of: Shot) =>
  new Map(
    of.things
      .filter((thing): thing is Cloth => thing.role === 'cloth')
      .map((cloth) => [cloth.id, placedMesh(of, cloth, none).positions]),
  );
const linesOf = (of: Shot, assets: Assets, ...at: [ReadonlyMap<string, Float32Array>, number]) =>
  tieLines([...tiedCloths(of, assets)], of, ...at);
const pairs = (lines: number[]) =>
  Array.from({ length: lines.length / 6 }, (_, i) => [
    lines.slice(i * 6, i * 6 + 3),
    lines.slice(i * 6 + 3, i * 6 + 6),
  ]);

describe('lines of ties', () => {
  it('go from tied points to where they are held: the surface, or as far from it as they keep', () => {
    const start = shot('rail');
    const kept = edit(start, 'Stand-off', (draft) => {
      const tie = (draft.things[0] as Cloth).ties[0]!;
      tie.keepsDistance = false;
      tie.standOff = 0.03;
    }).shot;
    const lines = pairs(linesOf(kept, none, cut(kept), 1));
    expect(lines).toHaveLength(3);
    lines.forEach(([from, to], i) => {
      expect(from).toEqual([
        ...cut(kept)
          .get('c')!
          .subarray(i * 6, i * 6 + 3),
      ]);
      // The underside of the rail is at 1.15 m.
      expect(to![1]).toBeCloseTo(1.12, 5);
      expect(to![0]).toBeCloseTo(from![0]!, 5);
    });
  });

  it('follow what they lead to over the frames', () => {
    const moving = edit(shot('rail'), 'Key', (draft) => {
      setKnot(draft, { thing: 'rail', number: 'position.x', frame: 1 }, 0, 'linear');
      setKnot(draft, { thing: 'rail', number: 'position.x', frame: 11 }, 1, 'linear');
    }).shot;
    const baked = new Map([...cut(moving)].map(([id, points]) => [id, points.map((value) => value + 0.01)]));
    const [first, sixth] = [1, 6].map((frame) => pairs(linesOf(moving, none, baked, frame)));
    first!.forEach(([, to], i) => expect(sixth![i]![1]![0]! - to![0]!).toBeCloseTo(0.5, 5));
    // Not baked, it is shown where it starts: there its lines are too.
    const unbaked = pairs(linesOf(moving, none, cut(moving), 6));
    unbaked.forEach(([, to], i) => expect(to![0]).toBeCloseTo(first![i]![1]![0]!, 5));
  });

  it('lead to where a border that is sewn is drawn to, before and while it is', () => {
    const sewn = edit(shot('rail'), 'Sew', (draft) => {
      Object.assign((draft.things[0] as Cloth).ties[0]!, { keepsDistance: false, standOff: 0.01, drawnIn: 24 });
    }).shot;
    for (const [, to] of pairs(linesOf(sewn, none, cut(sewn), 1))) expect(to![1]).toBeCloseTo(1.14, 5);
  });

  it('are so many of each tie as can be told apart, its first and its last among them', () => {
    const points = Array.from({ length: 25 }, (_, i) => i);
    const many = edit(shot('rail'), 'Tie', (draft) => void ((draft.things[0] as Cloth).ties[0]!.points = points)).shot;
    const lines = pairs(linesOf(many, none, cut(many), 1));
    expect(lines).toHaveLength(24);
    const at = (point: number) => [
      ...cut(many)
        .get('c')!
        .subarray(point * 3, point * 3 + 3),
    ];
    expect([lines[0]![0], lines.at(-1)![0]]).toEqual([at(0), at(24)]);
  });

  it('lead to other cloth where that is shown', () => {
    const start = shot('other');
    const shown = cut(start);
    const raised = shown.get('other')!.map((value, i) => (i % 3 === 1 ? value + 0.2 : value));
    const lines = pairs(linesOf(start, none, new Map([...shown, ['other', raised]]), 1));
    expect(lines).toHaveLength(3);
    for (const [, to] of lines) expect(to![1]).toBeCloseTo(1.3, 5);
    expect(linesOf(start, none, new Map([['c', shown.get('c')!]]), 1)).toEqual([]);
  });

  it('are none for what cannot be held, and none without ties', () => {
    const lost = edit(shot('rail'), 'Lose', (draft) => void draft.things.splice(1, 1)).shot;
    expect(linesOf(lost, none, cut(lost), 1)).toEqual([]);
    const free = edit(shot('rail'), 'Untie', (draft) => ((draft.things[0] as Cloth).ties = [])).shot;
    expect(linesOf(free, none, cut(free), 1)).toEqual([]);
  });
});
