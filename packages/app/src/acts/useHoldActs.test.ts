// @vitest-environment happy-dom
import {
  createCloth,
  createCollider,
  createMount,
  maskNumber,
  maskValues,
  readMask,
  setKnot,
  shapeMesh,
  sidePoints,
  type Cloth,
  type Hold,
  type Ramp,
  type Thing,
} from '@lumbra/core';
import { describe, expect, it, vi } from 'vitest';
import { useNoticeStore } from '../stores/notice';
import { useUndoStore } from '../stores/undo';
import { openBench } from '../testing/openBench';
import { useHoldActs } from './useHoldActs';

const SHAPE = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.05 } as const;
const mesh = shapeMesh(SHAPE, new Map());
const COUNT = mesh.positions.length / 3;
const top = sidePoints(mesh, 'top');
const RAMP: Ramp = { kind: 'straight', from: [0, 0], to: [1, 0], waves: false, inverted: false, phase: 0 };

async function open(more: Thing[] = []) {
  const cloth = createCloth({ id: 'c', name: 'Cloth', shape: SHAPE, position: [0, 1, 0] });
  const bench = await openBench([cloth, ...more]);
  bench.selection.station = 'hold';
  bench.selection.select('c');
  return { ...bench, acts: useHoldActs(), undo: useUndoStore(), cloth: () => bench.thing<Cloth>('Cloth') };
}

describe('holding selected points', () => {
  it.each(['pin', 'tie', 'leash'] as const)('by a %s is one undo, which brings the selection back', async (how) => {
    const rail = createCollider({ id: 'rail', name: 'Rail' });
    const { acts, undo, selection, cloth } = await open([rail]);
    const held = (): Hold[] => ({ pin: cloth().pinSets, tie: cloth().ties, leash: cloth().leashes })[how];
    selection.tool = 'box';
    selection.setPoints(top);
    if (how === 'tie') acts.tie(rail);
    else acts[how]();
    expect(held()).toHaveLength(1);
    expect(held()[0]!.points).toEqual([...top].sort((a, b) => a - b));
    expect(selection.holdId).toBe(held()[0]!.id);
    expect(selection.points).toEqual([]);
    expect(selection.tool).toBe('look');
    undo.undo();
    expect(held()).toEqual([]);
    expect(selection.points).toHaveLength(top.length);
  });

  it('ties to each of several things at once, and says which are out of reach', async () => {
    const rail = (id: string, z: number) =>
      createCollider({
        id,
        name: id,
        shape: { kind: 'box', width: 1, height: 0.01, depth: 0.01 },
        position: [0, 1, z],
      });
    const rails = [rail('Near', 0.2), rail('Far', -0.2), rail('Away', 3)];
    const { acts, undo, document, cloth } = await open(rails);
    const remark = vi.spyOn(useNoticeStore(), 'remark').mockReturnValue();
    acts.tieToEach(rails, 0.02);
    expect(cloth().ties.map(({ name, to, points }) => [name, to, points.length])).toEqual([
      ['Tie 1', 'Near', 9],
      ['Tie 2', 'Far', 9],
    ]);
    expect(document.done).toHaveLength(1);
    expect(remark.mock.lastCall?.[0]).toMatch(/No point is within 20 mm of Away/);
    undo.undo();
    expect(cloth().ties).toEqual([]);
    acts.tieToEach([rails[2]!], 0.02);
    expect(remark.mock.lastCall?.[0]).toMatch(/No point of Cloth is within/);
    expect(document.done).toEqual([]);
  });

  it('does nothing without points, and gives every hold a name of its own', async () => {
    const { acts, document, selection, cloth } = await open();
    acts.pin();
    acts.leash();
    expect(document.done).toEqual([]);
    for (const point of [1, 2, 3]) {
      selection.setPoints([point]);
      acts.pin();
    }
    expect(cloth().pinSets.map(({ name }) => name)).toEqual(['Pins 1', 'Pins 2', 'Pins 3']);
    acts.remove(cloth().pinSets[1]!);
    selection.setPoints([4]);
    acts.pin();
    expect(cloth().pinSets.map(({ name }) => name)).toEqual(['Pins 1', 'Pins 3', 'Pins 2']);
  });

  it('changes only the hold that is meant', async () => {
    const { acts, selection, cloth } = await open();
    for (const point of [1, 2]) {
      selection.setPoints([point]);
      acts.pin();
    }
    acts.changeHold(cloth().pinSets[0]!, 'strength', (hold) => {
      if ('strength' in hold) hold.strength = 0.5;
    });
    expect(cloth().pinSets.map(({ strength }) => strength)).toEqual([0.5, 1]);
  });

  it('lets go by a new mask in one undo', async () => {
    const { acts, document, selection, cloth } = await open();
    selection.setPoints(Array.from({ length: 45 }, (_, point) => point));
    acts.pin();
    acts.release(cloth().pinSets[0]!, 'middle');
    expect(cloth().pinSets[0]!.release).toBe(cloth().masks[0]!.id);
    expect(selection.maskId).toBe(cloth().masks[0]!.id);
    expect(cloth().keys).toHaveLength(1);
    document.undo();
    expect(cloth()).toMatchObject({ masks: [], keys: [] });
    expect(cloth().pinSets[0]!.release).toBeNull();
  });

  it('fades at the edge by a new mask, and takes its keys along when it is deleted', async () => {
    const { acts, document, selection, cloth } = await open();
    selection.setPoints(Array.from({ length: 45 }, (_, point) => point));
    acts.pin();
    acts.fade(cloth().pinSets[0]!);
    const [mask] = cloth().masks;
    expect(cloth().pinSets[0]!.mask).toBe(mask!.id);
    expect(selection.maskId).toBe(mask!.id);
    const values = readMask(mask!);
    expect(Math.max(...values)).toBe(255);
    expect(Math.min(...values)).toBeLessThan(255);
    const number = `hold:${cloth().pinSets[0]!.id}.move.x`;
    document.edit('Key', (draft) => setKnot(draft, { thing: 'c', number, frame: 1 }, 0.1));
    expect(cloth().keys).toHaveLength(1);
    acts.remove(cloth().pinSets[0]!);
    expect(cloth().keys).toEqual([]);
    expect(selection.holdId).toBeNull();
  });
});

describe('masks', () => {
  it('are added, painted on and deleted, each as one undo', async () => {
    const { acts, document, selection, cloth } = await open();
    acts.addMask('Painted', new Uint8Array(COUNT));
    const id = selection.maskId!;
    acts.setMask(id, 'Paint', new Uint8Array(COUNT).fill(77));
    expect([...readMask(cloth().masks[0]!)].every((value) => value === 77)).toBe(true);
    acts.deleteMask(id);
    expect(cloth().masks).toEqual([]);
    expect(selection.maskId).toBeNull();
    expect(document.done.map(({ label }) => label)).toEqual(['New mask Painted 1', 'Paint', 'Delete mask']);
  });

  it('that are ramps become painted as they are, and their phase can then no longer be keyed', async () => {
    const { acts, document, selection, cloth } = await open();
    acts.addMask('Ramp', RAMP);
    const id = selection.maskId!;
    document.edit('Key', (draft) => setKnot(draft, { thing: 'c', number: maskNumber(id, 'phase'), frame: 1 }, 0.25));
    acts.setRamp(id, 'Waves', (ramp) => (ramp.waves = true));
    const before = maskValues(cloth(), cloth().masks[0]!, mesh, 1);
    acts.setMask(
      id,
      'Paint on it',
      Uint8Array.from(before, (value) => Math.round(255 * value)),
    );
    expect(cloth().masks[0]!.ramp).toBeNull();
    expect(cloth().keys).toEqual([]);
    maskValues(cloth(), cloth().masks[0]!, mesh, 1).forEach((value, i) =>
      expect(Math.abs(value - before[i]!)).toBeLessThan(0.0025),
    );
  });

  it('let go of what they scale when they are deleted', async () => {
    const { acts, document, selection, cloth } = await open();
    selection.setPoints([1, 2]);
    acts.pin();
    acts.addMask('Ramp', RAMP);
    const id = selection.maskId!;
    document.edit('Use', (draft) => {
      const found = draft.things[0] as Cloth;
      found.pinSets[0]!.mask = id;
      found.fabricMasks.weight = id;
    });
    acts.deleteMask(id);
    expect(cloth().pinSets[0]!.mask).toBeNull();
    expect(cloth().fabricMasks).toEqual({});
  });
});

describe('points by where they are beside a thing', () => {
  const places = (points: number[]) => points.map((i) => [mesh.positions[i * 3]!, mesh.positions[i * 3 + 2]!] as const);

  it('are those above and below it, and within a distance of a mount', async () => {
    const mount = createMount({ name: 'Mount', position: [0, 1, 0] });
    const { acts } = await open([mount, createMount({ name: 'Low', position: [0, 0.5, 0] })]);
    const near = acts.pointsBy(mount, 'near', 0.1);
    expect(near.length).toBeGreaterThan(1);
    for (const [x, z] of places(near)) expect(Math.hypot(x, z)).toBeLessThanOrEqual(0.1 + 1e-6);
    const low = createMount({ name: 'Low', position: [0, 0.5, 0] });
    expect(acts.pointsBy(low, 'above', 0)).toHaveLength(COUNT);
    expect(acts.pointsBy(low, 'below', 0)).toEqual([]);
  });

  it('are those inside a closed shape, and near its surface from both sides', async () => {
    const box = createCollider({
      id: 'b',
      name: 'Box',
      shape: { kind: 'box', width: 0.22, height: 0.2, depth: 0.22 },
      position: [0, 1, 0],
    });
    const { acts } = await open([box]);
    const inside = acts.pointsBy(box, 'inside', 0);
    expect(inside).toHaveLength(25);
    for (const [x, z] of places(inside)) expect(Math.max(Math.abs(x), Math.abs(z))).toBeLessThan(0.11);
    const near = acts.pointsBy(box, 'near', 0.05);
    // The four at the corners are 56 mm away.
    expect(near).toHaveLength(45);
    expect(new Set(near).size).toBe(near.length);
  });

  it('are none where the shape is missing, with a reason', async () => {
    const lost = createCollider({ id: 'l', name: 'Lost', shape: { kind: 'mesh', asset: 'nowhere' } });
    const { acts } = await open([lost]);
    const { ElMessage } = await import('element-plus/es/components/message/index.mjs');
    expect(acts.pointsBy(lost, 'inside', 0)).toEqual([]);
    expect(ElMessage).toHaveBeenCalledWith(expect.objectContaining({ type: 'error' }));
  });
});
