import { describe, expect, it } from 'vitest';
import type { FrameStats } from './frame';
import { findProblems, problemTitle } from './problemFinder';

const clean: FrameStats = {
  ...{ seconds: 0, kineticEnergy: 0, meanStretch: 0, maxStretch: 0.01, fastest: 1, contacts: 0 },
  ...{ crossings: 0, crossingAt: null, deepest: 0, deepestIn: null, deepestAt: null, stretchAt: null },
  fingerprint: '',
};
const frames = (problems: Record<number, Partial<FrameStats>>) =>
  Array.from({ length: 60 }, (_, i) => ({ frame: i + 1, stats: { ...clean, ...problems[i + 1] } }));

describe('problem finder', () => {
  it('finds nothing in a clean bake', () => {
    expect(findProblems(frames({}))).toEqual([]);
  });

  it('joins frames that follow each other and gives the worst of them with its place', () => {
    const found = findProblems(
      frames({
        10: { maxStretch: 0.04, stretchAt: [1, 0, 0] },
        11: { maxStretch: 0.09, stretchAt: [2, 0, 0] },
        14: { maxStretch: 0.05, stretchAt: [3, 0, 0] },
        40: { maxStretch: 0.05, stretchAt: [4, 0, 0] },
      }),
    );
    expect(found).toHaveLength(2);
    expect(found[0]).toMatchObject({ kind: 'overStretch', from: 10, to: 14, worst: 11, value: 0.09, place: [2, 0, 0] });
    expect(found[1]).toMatchObject({ from: 40, to: 40 });
  });

  it('keeps kinds and colliders apart, crossings first', () => {
    const found = findProblems(
      frames({
        5: { deepest: 0.002, deepestIn: 'crate', deepestAt: [0, 1, 0] },
        6: { deepest: 0.003, deepestIn: 'rope', deepestAt: [0, 2, 0], crossings: 2, crossingAt: [0, 3, 0] },
        9: { pierced: 1, piercedIn: 'spike', piercedAt: [0, 4, 0] },
        10: { squeezed: 0.004, squeezedBetween: ['crate', 'rope'], squeezedAt: [0, 5, 0] },
        11: { squeezed: 0.005, squeezedBetween: ['crate', 'rope'], squeezedAt: [0, 6, 0] },
        12: { squeezed: 0.006, squeezedBetween: ['crate', 'spike'], squeezedAt: [0, 7, 0] },
      }),
    );
    expect(found.map(({ kind, things }) => [kind, ...things])).toEqual([
      ['crossing'],
      ['pierced', 'spike'],
      ['pokeThrough', 'crate'],
      ['pokeThrough', 'rope'],
      ['squeezed', 'crate', 'rope'],
      ['squeezed', 'crate', 'spike'],
    ]);
    expect(found[4]).toMatchObject({ from: 10, to: 11, worst: 11, place: [0, 6, 0] });
    const names = new Map([
      ['crate', 'Crate'],
      ['rope', 'Rope'],
    ]);
    expect(problemTitle(found[4]!, (id) => names.get(id))).toBe('No room, Crate and Rope');
    expect(problemTitle(found[0]!, (id) => names.get(id))).toBe('Crossing');
  });
});
