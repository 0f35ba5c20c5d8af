// @vitest-environment happy-dom
import { createAir, createCollider, keyRange, valueAt, type Collider, type Track } from '@lumbra/core';
import { ElMessage } from 'element-plus/es/components/message/index.mjs';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openBench } from '../testing/openBench';
import { useKnots } from './useKnots';

const track = (number: string, ...frames: number[]): Track => ({
  number,
  knots: frames.map((frame) => ({ frame, value: frame / 10, ease: 'linear' })),
});

async function open() {
  const batten = createCollider({
    id: 'b',
    name: 'Batten',
    keys: [track('position.x', 1, 10, 20), track('position.y', 10), track('rotation.z', 5)],
  });
  const other = createCollider({ id: 'o', name: 'Other', keys: [track('position.x', 10, 30)] });
  const bench = await openBench([batten, other], { lastFrame: 40 });
  bench.selection.select('b');
  const knots = useKnots();
  const frames = (number: string) =>
    bench
      .thing<Collider>('Batten')
      .keys.find((one) => one.number === number)
      ?.knots.map(({ frame }) => frame);
  const mark = (frame: number) => knots.marks.value.find((one) => one.frame === frame)!;
  return { ...bench, knots, frames, mark };
}

describe('knots on the timeline', () => {
  beforeEach(() => vi.clearAllMocks());

  it('are one mark for all numbers of what is selected at a frame, in the order of frames', async () => {
    const { knots, selection, mark } = await open();
    expect(knots.marks.value.map(({ frame }) => frame)).toEqual([1, 5, 10, 20]);
    expect(mark(10).places).toHaveLength(2);
    selection.select('o', true);
    expect(knots.marks.value.map(({ frame }) => frame)).toEqual([1, 5, 10, 20, 30]);
    expect(mark(10).places).toHaveLength(3);
    selection.select(null);
    expect(knots.marks.value).toEqual([]);
  });

  it('are those of gravity and of selected air at the Air station', async () => {
    const { knots, selection, document } = await open();
    const wind = createAir({ id: 'wind', name: 'Wind' });
    document.edit('Key gravity', (draft) => void draft.keys.push(track('gravity.strength', 12)));
    document.edit('Add', (draft) => void draft.things.push({ ...wind, keys: [track('air.speed', 15)] }));
    selection.station = 'air';
    expect(knots.marks.value.map(({ frame, places }) => [frame, places[0]!.thing])).toEqual([[12, null]]);
    selection.select('wind');
    expect(knots.marks.value.map(({ frame, places }) => [frame, places[0]!.thing])).toEqual([
      [12, null],
      [15, 'wind'],
    ]);
  });

  it('are selected instead, besides, and no longer', async () => {
    const { knots, selection, mark } = await open();
    knots.select(mark(1).places, false);
    knots.select(mark(10).places, true);
    expect(selection.knots).toHaveLength(3);
    knots.select(mark(10).places.slice(0, 1), true);
    expect(selection.knots.map(({ number, frame }) => [number, frame])).toEqual([
      ['position.x', 1],
      ['position.y', 10],
    ]);
    // Some of them selected, some not: now all are.
    knots.select(mark(10).places, true);
    expect(selection.knots).toHaveLength(3);
    knots.select(mark(5).places, false);
    expect(selection.knots.map(({ number }) => number)).toEqual(['rotation.z']);
  });

  it('move together, as one undo, and stay selected', async () => {
    const { knots, selection, frames, mark, document } = await open();
    knots.select(mark(10).places, false);
    knots.move(4, false);
    expect(frames('position.x')).toEqual([1, 14, 20]);
    expect(frames('position.y')).toEqual([14]);
    expect(selection.knots.every(({ frame }) => frame === 14)).toBe(true);
    expect(document.undoLabel).toBe('Move 2 keys');
    document.undo();
    expect(frames('position.x')).toEqual([1, 10, 20]);
    knots.move(0, false);
    expect(document.undoLabel).toBeUndefined();
  });

  it('are copied with what they are worth', async () => {
    const { knots, frames, mark, thing } = await open();
    knots.select(mark(20).places, false);
    knots.move(5, true);
    expect(frames('position.x')).toEqual([1, 10, 20, 25]);
    expect(valueAt(thing<Collider>('Batten'), 'position.x', 25)).toBe(2);
  });

  it('do not land on others: refused with the reason, and nothing changes', async () => {
    const { knots, frames, mark, selection } = await open();
    knots.select(mark(10).places, false);
    knots.move(10, false);
    expect(frames('position.x')).toEqual([1, 10, 20]);
    expect(selection.knots.every(({ frame }) => frame === 10)).toBe(true);
    expect(ElMessage).toHaveBeenCalledWith(expect.objectContaining({ type: 'error' }));
  });

  it('stay where keys can be', async () => {
    const { knots, mark, shot } = await open();
    const { first, last } = keyRange(shot());
    knots.select([...mark(1).places, ...mark(20).places], false);
    expect(knots.inRange(-1e6)).toBe(first - 1);
    expect(knots.inRange(1e6)).toBe(last - 20);
    expect(knots.inRange(2.6)).toBe(3);
  });
});
