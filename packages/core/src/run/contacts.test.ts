import { describe, expect, it } from 'vitest';
import { createCloth, createCollider, createShot } from '../shot/create';
import { writeMask } from '../shot/masks';
import { shapeMesh } from '../shot/shapes';
import type { Contact } from '../shot/contactSchemas';
import type { Cloth, Shot, Thing } from '../shot/schema';
import { BakeRun } from './bakeRun';
import { compile } from './compile';
import { changedInputs, runInputs } from './inputs';
import { Solver } from '../solver/solver';

const none = new Map();
const SHEET = { kind: 'sheet', width: 0.3, height: 0.3, spacing: 0.03 } as const;
const says = (a: string, b: string, rest: Partial<Contact>): Contact => ({
  ...{ between: [a, b], touches: true, clearance: null, friction: null, side: null },
  ...rest,
});
const ground = createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' }, clearance: 0.002 });
const board = createCollider({
  ...{ id: 'board', name: 'Board', position: [0, 0.2, 0], clearance: 0.002, friction: 0.4 },
  shape: { kind: 'box', width: 0.6, height: 0.04, depth: 0.6 },
});
const sheetAt = (id: string, y: number, more: Partial<Parameters<typeof createCloth>[0]> = {}): Cloth =>
  createCloth({ id, name: id, shape: SHEET, position: [0, y, 0], ...more });

function shotOf(things: Thing[], contacts: Contact[] = [], frames = 30): Shot {
  return createShot({ name: 'Table', things, contacts, lastFrame: frames, run: { substeps: 20 } });
}

/** Heights of a cloth's points in the last frame. */
function heights(shot: Shot, cloth = 0): number[] {
  const run = new BakeRun(shot, none);
  let last: Float32Array | undefined;
  for (let frame = shot.firstFrame; frame <= shot.lastFrame; frame++) last = run.next()!.positions[cloth]!;
  return [...last!.filter((_, i) => i % 3 === 1)];
}

describe('the contact table', () => {
  it('lets a cloth fall through a thing that it does not touch, while another lies on it', () => {
    const things = [sheetAt('above', 0.25), sheetAt('through', 0.235), board, ground];
    const shot = shotOf(things, [says('through', 'board', { touches: false })], 36);
    expect(Math.max(...heights(shot, 1))).toBeLessThan(0.02);
    expect(Math.min(...heights(shot, 0))).toBeGreaterThan(0.215);
    const solver = new Solver(compile(shot, none));
    expect(solver.contact().depths[0]!.depth).toBeLessThan(0);
  });

  it('keeps a pair as far apart as it says, and grips as it says', () => {
    const thickness = sheetAt('c', 0).fabric.thickness / 2;
    const far = shotOf([sheetAt('c', 0.25), board], [says('board', 'c', { clearance: 0.012 })]);
    for (const y of heights(far)) expect(y).toBeCloseTo(0.22 + 0.012 + thickness, 3);
    // A board that leans by 20 degrees holds cloth with a friction of 0.6, and loses it with 0.1.
    const leaning = { ...board, rotation: [0, 0, (-20 * Math.PI) / 180] as [number, number, number] };
    const sheet = sheetAt('c', 0.226, { rotation: [0, 0, (-20 * Math.PI) / 180] });
    const lowest = (friction: number) =>
      Math.min(...heights(shotOf([sheet, leaning], [says('c', 'board', { friction })], 20)));
    expect(lowest(0.1)).toBeLessThan(lowest(0.6) - 0.03);
  });

  it('lets a thing count on another side for one cloth', () => {
    const tub = createCollider({
      ...{ id: 'tub', name: 'Tub', position: [0, 0.5, 0] },
      shape: { kind: 'ball', radius: 0.4 },
    });
    const inside = shotOf([sheetAt('c', 0.45), tub], [says('c', 'tub', { side: 'inside' })], 40);
    const y = heights(inside);
    expect(Math.min(...y)).toBeGreaterThan(0.1);
    expect(Math.max(...y)).toBeLessThan(0.35);
  });

  it('lets two cloths pass each other, or keeps them as far apart and as rough as it says', () => {
    const things = [sheetAt('low', 0.226), sheetAt('high', 0.26), board];
    const apart = (contacts: Contact[]) => {
      const shot = shotOf(things, contacts);
      const [low, high] = [heights(shot, 0), heights(shot, 1)];
      return low.map((y, i) => high[i]! - y).sort((a, b) => a - b)[low.length >> 1]!;
    };
    expect(apart([])).toBeCloseTo(0.002, 3);
    expect(Math.abs(apart([says('high', 'low', { touches: false })]))).toBeLessThan(0.0008);
    expect(apart([says('high', 'low', { clearance: 0.015 })])).toBeCloseTo(0.015, 3);
    const passing = new Solver(compile(shotOf(things, [says('high', 'low', { touches: false })]), none));
    expect(passing.crossings().count).toBe(0);
  });

  it('counts no crossing where a cloth passes through itself, as a whole or where a mask says so', () => {
    const mesh = shapeMesh(SHEET, none);
    // Folded flat upon itself across the middle, and a little beyond: crossed wherever it touches itself.
    const positions = mesh.positions.slice();
    for (let i = 0; i < positions.length; i += 3) {
      if (positions[i]! > 0.01) [positions[i], positions[i + 1]] = [0.02 - positions[i]!, -0.01 + 0.1 * positions[i]!];
    }
    const crossings = (selfContact: Partial<Cloth['selfContact']>, masks: Cloth['masks'] = []) => {
      const cloth = sheetAt('c', 0, { start: 'pose', masks, selfContact: { thickness: 0.002, ...selfContact } });
      const assets = new Map([['pose', { ...mesh, positions }]]);
      return new Solver(compile(shotOf([cloth]), assets)).crossings().count;
    };
    const all = crossings({});
    expect(all).toBeGreaterThan(0);
    expect(crossings({ enabled: false })).toBe(0);
    const mask = (value: number) => {
      const values = new Uint8Array(positions.length / 3).fill(value);
      return [{ id: 'm', name: 'Mask', values: writeMask(values), ramp: null }];
    };
    expect(crossings({ mask: 'm' }, mask(255))).toBe(all);
    expect(crossings({ mask: 'm' }, mask(0))).toBe(0);
  });

  it('changes the inputs of a run only where both are in it', () => {
    const things = [sheetAt('c', 0.25), board, ground];
    const before = runInputs(shotOf(things), none);
    const off = runInputs(shotOf(things, [says('c', 'board', { touches: false })]), none);
    expect(changedInputs(before, off).map(({ path }) => path)).toContain('contact.board.c.touches');
    const gone = runInputs(shotOf(things, [says('c', 'lost', { touches: false })]), none);
    expect(changedInputs(before, gone)).toEqual([]);
    expect(() => compile(shotOf(things, [says('c', 'lost', { touches: false })]), none)).not.toThrow();
  });
});
