import { describe, expect, it } from 'vitest';
import { finishEntrySchema } from '../finish/steps';
import { BakeRun } from '../run/bakeRun';
import { runInputs } from '../run/inputs';
import { createCloth, createShot } from './create';
import { edit } from './edit';
import { setKnot } from './editKeys';
import { finishAt, finishMasks, finishNumber, finishNumbers } from './finishAt';
import { removeMask } from './holds';
import { readShot } from './readShot';
import type { Cloth, Shot } from './schema';
import { shapeMesh } from './shapes';

const THICKEN = finishEntrySchema.parse({ id: 'thick', mask: 'm', step: { kind: 'thicken', thickness: 0.002 } });
const SMOOTH = finishEntrySchema.parse({ id: 'smooth', on: false, mask: 'm', step: { kind: 'smooth' } });

function shot(finish = [THICKEN, SMOOTH]): Shot {
  const shape = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.1 } as const;
  const ramp = { kind: 'straight', from: [0, 0], to: [0.4, 0] } as const;
  const masks = [{ id: 'm', name: 'Ramp', values: '', ramp }];
  return createShot({
    name: 'Finished',
    run: { substeps: 4 },
    things: [createCloth({ id: 'c', name: 'Cloth', shape, position: [0, 1, 0], masks: masks as never, finish })],
  });
}
const clothOf = (of: Shot) => of.things[0] as Cloth;
const keyed = () =>
  edit(shot(), 'Key', (draft) => {
    const number = finishNumber('thick', 'thickness');
    setKnot(draft, { thing: 'c', number, frame: 1 }, 0.001, 'linear');
    setKnot(draft, { thing: 'c', number, frame: 11 }, 0.003, 'linear');
  }).shot;

describe('the finish list of a cloth', () => {
  it('has its keyed numbers as they are at a frame, and the document keeps its own', () => {
    const now = keyed();
    expect(finishAt(clothOf(now), 6)[0]!.step).toMatchObject({ thickness: 0.002 });
    expect(finishAt(clothOf(now), 11)[0]!.step).toMatchObject({ thickness: 0.003 });
    expect(clothOf(now).finish).toEqual(clothOf(shot()).finish);
    expect(readShot(JSON.parse(JSON.stringify(now)))).toEqual(now);
    expect(Object.keys(finishNumbers(clothOf(now)))).toEqual(['finish:thick.thickness', 'finish:smooth.strength']);
  });

  it('never makes a bake stale, with its keys', () => {
    const bare = shot([]);
    expect(runInputs(keyed(), new Map())).toEqual(runInputs(bare, new Map()));
    const bits = (of: Shot) => new BakeRun(of, new Map()).next().stats.fingerprint;
    expect(bits(keyed())).toBe(bits(bare));
  });

  it('is masked by what masks are at that frame, of steps that are on; a mask that is deleted leaves them whole', () => {
    const mesh = shapeMesh(clothOf(shot()).shape, new Map());
    const values = finishMasks(clothOf(shot()), mesh, 1).get('m')!;
    expect(values).toHaveLength(mesh.positions.length / 3);
    expect(Math.max(...values)).toBeCloseTo(1, 5);
    expect(Math.min(...values)).toBeCloseTo(0, 5);
    expect(finishMasks(clothOf(shot([SMOOTH])), mesh, 1).size).toBe(0);
    const without = edit(shot(), 'Delete', (draft) => removeMask(clothOf(draft), 'm')).shot;
    expect(clothOf(without).finish.map(({ mask }) => mask)).toEqual([null, null]);
  });
});
