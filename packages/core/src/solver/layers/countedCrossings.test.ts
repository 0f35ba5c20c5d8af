import { describe, expect, it } from 'vitest';
import { CountedCrossings } from './countedCrossings';

function counting() {
  const counted = new CountedCrossings();
  let counts = 0;
  const at = (...places: number[]) =>
    counted.at(new Float32Array(places), () => ({ count: ++counts, listed: new Uint32Array([counts]) })).count;
  return { counted, at };
}

describe('crossings', () => {
  it('are counted once where a frame ends and the next begins, and where it is taken again', () => {
    const { at } = counting();
    expect([at(1, 2), at(1, 2)]).toEqual([1, 1]);
    // The end of a frame, which is taken again twice from its start; the next begins where it ends.
    expect([at(1, 3), at(1, 2), at(1, 4), at(1, 2), at(1, 5), at(1, 5)]).toEqual([2, 1, 3, 1, 4, 4]);
  });

  it('are counted anew where any point has moved, where points are not numbers, and where cloths meet otherwise', () => {
    const { counted, at } = counting();
    expect([at(1, 2, 3), at(1, 2.0001, 3)]).toEqual([1, 2]);
    expect([at(NaN), at(NaN)]).toEqual([3, 4]);
    at(5);
    counted.clear();
    expect(at(5)).toBe(6);
  });

  it('keep what was listed, though the kernel lists others in its place', () => {
    const counted = new CountedCrossings();
    const room = new Uint32Array([7]);
    const at = () => counted.at(new Float32Array(3), () => ({ count: 1, listed: room })).listed;
    at();
    room[0] = 8;
    expect([...at()]).toEqual([7]);
  });
});
