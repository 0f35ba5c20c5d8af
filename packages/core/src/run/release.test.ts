import { freeze } from 'immer';
import { describe, expect, it } from 'vitest';
import { createCollider, createLeash, createPinSet, createTie } from '../shot/create';
import { holdNumber } from '../shot/keyable';
import { releaseFrames } from '../shot/release';
import type { Hold } from '../shot/holdSchemas';
import type { Cloth, Shot } from '../shot/schema';
import { frames, keyed, mesh, point, shot, top } from './heldShots';
import { runInputs } from './inputs';

const ramp = { kind: 'straight', from: [0, 0], to: [0.6, 0] } as const;
const masks = [{ id: 'm', name: 'Along', values: '', ramp }] as never;
const LET_GO: [number, number][] = [
  [4, 0],
  [14, 1],
];

/** The top of a sheet is held, and let go from one side to the other from frame 4 to frame 14. */
function letsGo(how: 'pins' | 'tie' | 'leash', knots = LET_GO): Shot {
  const more = { release: 'm' };
  const rail = createCollider({ id: 'rail', name: 'Rail', position: [0, 1.3, 0] });
  const cloth = {
    pins: { pinSets: [createPinSet({ id: 'h', name: 'Top', points: top, ...more })] },
    tie: { ties: [createTie({ id: 'h', name: 'Top', points: top, to: 'rail', ...more })] },
    leash: { leashes: [createLeash({ id: 'h', name: 'Top', points: top, distance: 0.001, ...more })] },
  }[how];
  const things = how === 'tie' ? [{ ...rail, enabled: false }] : [];
  return keyed(shot({ ...cloth, masks }, things), 'c', holdNumber('h', 'released'), knots);
}
const clothOf = (of: Shot) => of.things[0] as Cloth;
const holdOf = (of: Shot): Hold => {
  const { pinSets, ties, leashes } = clothOf(of);
  return [...pinSets, ...ties, ...leashes][0]!;
};

describe('a hold that is released', () => {
  it.each(['pins', 'tie'] as const)('of %s sets each point free at its frame, not one earlier or later', (how) => {
    const of = letsGo(how);
    const when = releaseFrames(clothOf(of), holdOf(of), mesh, of)!;
    expect(new Set(when).size).toBeGreaterThan(5);
    const run = frames(of, 18).map(({ positions }) => positions[0]!);
    top.forEach((index, i) => {
      const start = point(run[0]!, index);
      run.forEach((now, n) => {
        const away = Math.hypot(...point(now, index).map((value, axis) => value - start[axis]!));
        if (n + 1 < when[i]!) expect(away, `point ${i}, frame ${n + 1}`).toBeLessThan(1e-5);
        // A frame of falling.
        if (n + 1 === when[i]! + 1) expect(away, `point ${i}, frame ${n + 1}`).toBeGreaterThan(0.0005);
      });
    });
  });

  it('of leashes lets points stray that are free', () => {
    const of = letsGo('leash');
    const when = releaseFrames(clothOf(of), holdOf(of), mesh, of)!;
    const run = frames(of, 22).map(({ positions }) => positions[0]!);
    const fallen = (frame: number, i: number) => point(run[0]!, top[i]!)[1]! - point(run[frame - 1]!, top[i]!)[1]!;
    top.forEach((_, i) => {
      expect(fallen(4, i)).toBeLessThan(0.002);
      expect(fallen(22, i)).toBeGreaterThan(0.05);
    });
    const last = when.indexOf(Math.max(...when));
    expect(fallen(9, last)).toBeLessThan(0.1 * fallen(9, when.indexOf(Math.min(...when))));
  });

  it('goes along the border of its mask, and keeps what comes back below it', () => {
    const of = letsGo('pins');
    const when = releaseFrames(clothOf(of), holdOf(of), mesh, of)!;
    // The ramp falls along the top.
    expect([...when].sort((a, b) => b - a)).toEqual(when);
    // What is caught again was not free for good.
    const back = letsGo('pins', [
      [4, 0],
      [10, 0.6],
      [16, 0.2],
    ]);
    const kept = releaseFrames(clothOf(back), holdOf(back), mesh, back)!;
    expect(kept.filter((frame) => frame < Infinity).length).toBeLessThan(when.length * 0.8);
    expect(kept[0]).toBe(Infinity);
  });

  it('is known anew when the range of the shot changes', () => {
    const of = freeze(letsGo('pins'), true);
    const whole = releaseFrames(clothOf(of), holdOf(of), mesh, of)!;
    const short = releaseFrames(clothOf(of), holdOf(of), mesh, { firstFrame: 1, lastFrame: 8 })!;
    expect(Math.max(...whole.filter((frame) => frame < Infinity))).toBeGreaterThan(8);
    expect(short.filter((frame) => frame < Infinity).every((frame) => frame <= 8)).toBe(true);
    expect(short).toContain(Infinity);
  });

  it('is an input of the run by what its mask is worth', () => {
    const none = new Map<string, never>();
    const of = letsGo('pins');
    const other = structuredClone(of);
    clothOf(other).masks[0]!.ramp!.to = [0.3, 0];
    expect(runInputs(other, none)).not.toEqual(runInputs(of, none));
    const renamed = structuredClone(of);
    clothOf(renamed).masks[0]!.id = clothOf(renamed).pinSets[0]!.release = 'other';
    expect(runInputs(renamed, none)).toEqual(runInputs(of, none));
  });
});
