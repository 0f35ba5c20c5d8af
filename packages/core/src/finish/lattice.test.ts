import { describe, expect, it } from 'vitest';
import { areaMiddle } from '../mesh/areaMiddle';
import { sheet } from '../mesh/shapes/sheet';
import { keyableNumbers } from '../shot/keyable';
import { setKnot } from '../shot/editKeys';
import { createCloth, createShot } from '../shot/create';
import { edit } from '../shot/edit';
import { finishAt, finishNumber } from '../shot/finishAt';
import type { Track } from '../shot/keys';
import type { Cloth } from '../shot/things';
import { FinishList } from './finishCloth';
import { controlIndex, controlPlaces, placedControls, resampled, type Counts } from './lattice/controlPoints';
import { setLatticeCounts } from './lattice/setCounts';
import { FINISH_STEPS, finishEntrySchema, type FinishEntry } from './steps';

const mesh = sheet({ width: 0.6, height: 0.4, spacing: 0.05 });
/** The sheet somewhere else, as a hollow. */
const lying = mesh.positions.map((value, i) =>
  i % 3 === 1 ? 1 + mesh.positions[i - 1]! ** 2 + mesh.positions[i + 1]! ** 3 : value + 2,
);

type Numbers = Partial<Extract<FinishEntry['step'], { kind: 'lattice' }>>;

function entry(numbers: Numbers, counts: Counts = [3, 3, 3], mask: string | null = null): FinishEntry {
  const begun = FINISH_STEPS.lattice.begin!(lying, mesh.triangles);
  const step = { kind: 'lattice', ...begun, counts: [...counts], points: moves(counts, () => [0, 0, 0]), ...numbers };
  return finishEntrySchema.parse({ id: 'l', mask, step });
}

function bent(of: FinishEntry, positions = lying, mask: Float32Array | null = null): Float32Array {
  return new FinishList(mesh, [of]).place(positions, [of], () => mask);
}

/** How far each control point is moved, by where it stood: in shares of the box, 0 to 1. */
function moves(counts: Counts, of: (x: number, y: number, z: number) => [number, number, number]): number[] {
  return controlPlaces(counts).flatMap((at) =>
    of(...(at.map((i, axis) => i / (counts[axis]! - 1)) as [number, number, number])),
  );
}

describe('a lattice', () => {
  it('leaves cloth as it is to the bit until a point is moved', () => {
    expect(bent(entry({}))).toBe(lying);
    expect(bent(entry({ points: new Array<number>(81).fill(0) }))).toBe(lying);
  });

  it('stands around the cloth, and goes along with it', () => {
    const of = entry({});
    const { still } = placedControls(of.step as never, areaMiddle(lying, mesh.triangles));
    for (const axis of [0, 1, 2]) {
      const own = [...lying].filter((_, i) => i % 3 === axis);
      const box = still.map((place) => place[axis]!);
      expect(Math.min(...box)).toBeCloseTo(Math.min(...own) - 0.01, 6);
      expect(Math.max(...box)).toBeCloseTo(Math.max(...own) + 0.01, 6);
    }
    const points = moves([3, 3, 3], (x, y, z) => [0.1 * z, 0.2 * x * x, -0.1 * y]);
    const away = lying.map((value, i) => value + [5, -1, 2][i % 3]!);
    const [here, there] = [bent(entry({ points })), bent(entry({ points }), away)];
    here.forEach((value, i) => expect(there[i]).toBeCloseTo(value + [5, -1, 2][i % 3]!, 5));
  });

  it.each([
    [2, 2, 2],
    [3, 2, 5],
    [8, 8, 8],
  ] as const)(
    'of %i by %i by %i points moved by what is linear in their places moves cloth by the same',
    (...counts) => {
      const linear = (x: number, y: number, z: number): [number, number, number] => [
        ...([0.1 + 0.3 * x - 0.2 * y, 0.05 * z + 0.4 * y, -0.2 * x + 0.1 * z] as const),
      ];
      const of = entry({ points: moves(counts, linear) }, counts);
      const { low, size } = boxOf(of);
      bent(of).forEach((value, i) => {
        const at = i - (i % 3);
        const shares = [0, 1, 2].map((axis) => (lying[at + axis]! - low[axis]!) / size[axis]!);
        expect(value).toBeCloseTo(lying[i]! + linear(...(shares as [number, number, number]))[i % 3]!, 5);
      });
    },
  );

  it('takes as much of the bend as it is told, and what a mask keeps out not at all', () => {
    const points = moves([3, 3, 3], (x, y) => [0, x * y, 0.2]);
    const [all, half] = [bent(entry({ points })), bent(entry({ points, strength: 0.5 }))];
    all.forEach((value, i) => expect(half[i]! - lying[i]!).toBeCloseTo((value - lying[i]!) / 2, 5));
    const mask = new Float32Array(lying.length / 3).map((_, i) => (i < 10 ? 0 : 1));
    const masked = bent(entry({ points }, [3, 3, 3], 'm'), lying, mask);
    expect(masked.subarray(0, 30)).toEqual(lying.subarray(0, 30));
    expect(masked.subarray(30)).toEqual(all.subarray(30));
  });

  it('bends no further than its points are moved, and most near the one that is', () => {
    const counts: Counts = [4, 2, 4];
    const points = new Array<number>(96).fill(0);
    points[controlIndex(counts, [3, 1, 3]) * 3 + 1] = 0.3;
    const moved = bent(entry({ points }, counts)).map((value, i) => value - lying[i]!);
    const up = [...moved].filter((_, i) => i % 3 === 1);
    expect(Math.max(...up)).toBeLessThan(0.3);
    const highest = up.indexOf(Math.max(...up));
    expect([lying[highest * 3], lying[highest * 3 + 2]]).toEqual([
      Math.max(...lying.filter((_, i) => i % 3 === 0)),
      Math.max(...lying.filter((_, i) => i % 3 === 2)),
    ]);
  });

  it('makes the same bend with more points', () => {
    const points = moves([3, 2, 4], (x, y, z) => [Math.sin(3 * x) * z, 0.3 * y * x, 0.2 * z ** 2]);
    const coarse = bent(entry({ points }, [3, 2, 4]));
    const fine = bent(entry({ points: [...resampled(points, [3, 2, 4], [6, 3, 5])] }, [6, 3, 5]));
    fine.forEach((value, i) => expect(value).toBeCloseTo(coarse[i]!, 5));
    // Fewer points of what is linear are those of the same.
    const linear = (counts: Counts) => moves(counts, (x, y, z) => [x, y - z, 2 * z]);
    resampled(linear([7, 6, 5]), [7, 6, 5], [2, 3, 4]).forEach((value, i) =>
      expect(value).toBeCloseTo(linear([2, 3, 4])[i]!, 12),
    );
  });

  it('has points that are keyed like any number', () => {
    const points = moves([3, 3, 3], () => [0, 0, 0]);
    const cloth = createCloth({ id: 'c', name: 'Cloth', finish: [entry({ points })] });
    const number = finishNumber('l', 'points.40');
    const shot = edit(createShot({ name: 'Test', things: [cloth] }), 'Key', (draft) => {
      setKnot(draft, { thing: 'c', number, frame: 1 }, 0);
      setKnot(draft, { thing: 'c', number, frame: 11 }, 0.4);
    }).shot;
    const keyed = shot.things[0] as Cloth;
    expect(keyableNumbers(keyed)[number]!.label).toBe('Lattice, point 2 2 2 along y');
    const heights = [1, 6, 11].map((frame) => {
      const entries = finishAt(keyed, frame);
      const list = new FinishList(mesh, keyed.finish);
      // A list that was prepared before the keys fits at every frame.
      expect(list.fits(mesh, entries)).toBe(true);
      return Math.max(...list.place(lying, entries, () => null).filter((_, i) => i % 3 === 1));
    });
    const still = Math.max(...lying.filter((_, i) => i % 3 === 1));
    expect(heights[0]).toBe(still);
    expect(heights[1]).toBeGreaterThan(still);
    expect(heights[2]).toBeGreaterThan(heights[1]!);
  });
});

describe('other numbers of points', () => {
  const id = 'l';
  const key = (i: number, ...values: number[]) => ({
    number: finishNumber(id, `points.${i}`),
    knots: values.map((value, n) => ({ frame: 1 + n * 10, value, ease: 'linear' as const })),
  });
  const at = (step: FinishEntry['step'], keys: Track[], frame: number) =>
    bent(finishAt(createCloth({ id: 'c', name: 'Cloth', finish: [{ ...entry({}), step }], keys }), frame)[0]!);

  it('keep what keys did, at the same frames, and other keys', () => {
    const { step } = entry({ points: moves([3, 3, 3], (x) => [0, x, 0]) });
    const other = { number: finishNumber(id, 'strength'), knots: [{ frame: 4, value: 1, ease: 'hold' as const }] };
    const keys: Track[] = [key(40, 0, 0.4, -0.1), other, key(2, 0.1, 0.1, 0.3)];
    const before = [1, 5, 11, 21].map((frame) => at(step, keys, frame));
    const next = structuredClone(step);
    if (next.kind !== 'lattice') throw new Error('not a lattice');
    const made = setLatticeCounts(next, id, keys, [4, 3, 5]);
    expect(next.counts).toEqual([4, 3, 5]);
    expect(next.points).toHaveLength(180);
    expect(made).toContainEqual(other);
    expect(
      made
        .flatMap(({ knots }) => knots.map(({ frame }) => frame))
        .sort((a, b) => a - b)
        .at(-1),
    ).toBe(21);
    [1, 5, 11, 21].forEach((frame, n) =>
      at(next, made, frame).forEach((value, i) => expect(value).toBeCloseTo(before[n]![i]!, 5)),
    );
  });
});

function boxOf(of: FinishEntry): { low: number[]; size: number[] } {
  const { still } = placedControls(of.step as never, areaMiddle(lying, mesh.triangles));
  const low = [0, 1, 2].map((axis) => Math.min(...still.map((place) => place[axis]!)));
  return { low, size: low.map((from, axis) => Math.max(...still.map((place) => place[axis]!)) - from) };
}
