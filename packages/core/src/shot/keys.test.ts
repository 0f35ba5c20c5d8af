import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createCollider, createShot } from './create';
import { trackValue, type Track } from './keys';
import { placementAt } from './placement';
import { readShot } from './readShot';

const track = (ease: 'hold' | 'linear' | 'smooth'): Track => ({
  number: 'position.x',
  knots: [
    { frame: 10, value: 1, ease },
    { frame: 20, value: 3, ease },
    { frame: 40, value: -1, ease },
  ],
});

describe('keys', () => {
  it('keep the first value before and the last one after', () => {
    expect(trackValue(track('linear'), 1)).toBe(1);
    expect(trackValue(track('linear'), 100)).toBe(-1);
  });

  it('hold, go straight or ease', () => {
    expect(trackValue(track('hold'), 19.9)).toBe(1);
    expect(trackValue(track('linear'), 15)).toBe(2);
    expect(trackValue(track('linear'), 25)).toBe(2);
    expect(trackValue(track('smooth'), 15)).toBe(2);
    expect(trackValue(track('smooth'), 11)).toBeCloseTo(1 + 2 * 0.028, 6);
  });

  it('never leave the range of their knots, and are exact at them', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 50, noNaN: true }),
        fc.constantFrom('hold', 'linear', 'smooth'),
        (at, ease) => {
          const value = trackValue(track(ease), at);
          expect(value).toBeGreaterThanOrEqual(-1);
          expect(value).toBeLessThanOrEqual(3);
        },
      ),
    );
    for (const { frame, value } of track('smooth').knots) expect(trackValue(track('smooth'), frame)).toBe(value);
  });

  it('place a thing, and leave what is not keyed', () => {
    const thing = createCollider({ name: 'Bar', position: [5, 6, 7], keys: [track('linear')] });
    expect(placementAt(thing, 15)).toEqual({ position: [2, 6, 7], rotation: [0, 0, 0] });
  });

  it('are refused out of order, twice at a frame, and twice for a number', () => {
    const shot = (keys: Track[]) => ({
      ...createShot({ name: 'Keyed' }),
      things: [{ ...createCollider({ name: 'Bar' }), keys }],
    });
    const knots = (frames: number[]) => [
      { ...track('linear'), knots: frames.map((frame) => ({ frame, value: 0, ease: 'linear' as const })) },
    ];
    expect(readShot(shot(knots([1, 2]))).things[0]!.keys).toHaveLength(1);
    expect(() => readShot(shot(knots([2, 1])))).toThrow('things[0].keys[0].knots[1].frame: must come after');
    expect(() => readShot(shot(knots([3, 3])))).toThrow('must come after');
    expect(() => readShot(shot([track('hold'), track('hold')]))).toThrow('keyed twice');
  });
});
