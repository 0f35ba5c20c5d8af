// @vitest-environment happy-dom
import {
  createCloth,
  createMount,
  createPinSet,
  holdNumber,
  poseOf,
  setKnot,
  type Cloth,
  type PinSet,
  type Pose,
  type Thing,
} from '@lumbra/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { openBench } from '../../testing/openBench';
import { usePinHandles } from './usePinHandles';

const SHAPE = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.1 } as const;

async function open(set: Partial<PinSet> = {}, more: Thing[] = []) {
  const pins = createPinSet({ id: 'p', name: 'Pins', points: [0, 1, 2, 3, 4], ...set });
  const cloth = createCloth({ id: 'c', name: 'Cloth', shape: SHAPE, position: [0, 1, 0], pinSets: [pins] });
  const bench = await openBench([cloth, ...more], { lastFrame: 48 });
  bench.selection.station = 'hold';
  bench.selection.select('c');
  bench.selection.holdId = 'p';
  const handles = usePinHandles(() => bench.run.frame);
  const pinned = () => bench.thing<Cloth>('Cloth').pinSets[0]!;
  return { ...bench, handles, pinned };
}

const near = (a: readonly number[], b: readonly number[], digits = 5) =>
  a.forEach((value, i) => expect(value).toBeCloseTo(b[i]!, digits));

describe('the handles of a pin set', () => {
  it('stand in the middle of its points, and nowhere without a chosen set', async () => {
    const { handles, selection } = await open();
    // The row of points at one side of the sheet.
    near(handles.poseNow()!.pose.center, [0, 1, -0.2]);
    selection.holdId = 'another';
    expect(handles.poseNow()).toBeNull();
  });

  it.each([
    ['standing', {}],
    ['riding something that is turned', { rides: 'mount' }],
  ])('take it to where they are dragged and turned, %s', async (_, set) => {
    const mount = createMount({ id: 'mount', name: 'Mount', position: [2, 0, 1], rotation: [0.3, 1, -0.2] });
    const { handles, document } = await open(set, [mount]);
    const value = fc.double({ min: -1.2, max: 1.2, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(value, value, value), fc.tuple(value, value, value), (center, turn) => {
        const wanted: Pose = poseOf(center, turn);
        handles.placed(wanted, 'move');
        near(handles.poseNow()!.pose.center, center, 4);
        handles.placed(wanted, 'turn');
        near(handles.poseNow()!.pose.rotation, wanted.rotation, 4);
        document.endMerge();
      }),
      { numRuns: 20 },
    );
  });

  it('gather it, within what is sensible', async () => {
    const { handles, pinned } = await open();
    handles.gathered([0.5, 1, 1]);
    expect(pinned().gather).toEqual([0.5, 1, 1]);
    handles.gathered([0.5, 1, 2]);
    expect(pinned().gather).toEqual([0.25, 1, 2]);
    handles.gathered([0, 1, 100]);
    expect(pinned().gather).toEqual([0.02, 1, 5]);
  });

  it('are one undo a drag, and none where nothing was changed', async () => {
    const { handles, document, pinned } = await open();
    for (const x of [0.1, 0.2, 0.3]) handles.placed(poseOf([x, 1, -0.2], [0, 0, 0]), 'move');
    document.endMerge();
    near(pinned().move, [0.3, 0, 0]);
    expect(document.done.map(({ label }) => label)).toEqual(['Move Pins']);
    handles.placed(handles.poseNow()!.pose, 'move');
    handles.gathered([1, 1, 1]);
    expect(document.done).toHaveLength(1);
    document.undo();
    expect(pinned().move).toEqual([0, 0, 0]);
  });

  it('show a keyed set where it is at the frame', async () => {
    const { handles, document, run } = await open();
    document.edit('Key', (draft) => {
      for (const [frame, value] of [
        [1, 0],
        [25, 1],
      ] as const) {
        setKnot(draft, { thing: 'c', number: holdNumber('p', 'move.y'), frame }, value, 'linear');
      }
    });
    run.frame = 13;
    near(handles.poseNow()!.pose.center, [0, 1.5, -0.2]);
  });

  it('are gone where what it rides is gone', async () => {
    const { handles } = await open({ rides: 'nobody' });
    expect(handles.poseNow()).toBeNull();
    handles.placed(poseOf([0, 0, 0], [0, 0, 0]), 'move');
  });
});
