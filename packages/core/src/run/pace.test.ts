import { describe, expect, it } from 'vitest';
import { sheet } from '../mesh/shapes/sheet';
import { createCloth, createCollider, createShot } from '../shot/create';
import type { Shot } from '../shot/schema';
import { sidePoints } from '../shot/selectPoints';
import { MOST_SUBSTEPS } from '../solver/substeps';
import { BakeRun } from './bakeRun';
import { ruleSubsteps } from './compile';
import { brokenText } from './brokenText';
import { keptPromises } from './keptPromises';
import {
  breachOf,
  mendable,
  MOST_RETAKES,
  paceLimits,
  reachAfter,
  reachFarther,
  retakeWith,
  substepsAfter,
} from './pace';
import type { FrameStats } from './frame';

const limits = paceLimits(0.03, 50, 30);
const fine = { crossings: 0, deepest: 0, pierced: 0, squeezed: 0 };
const stretched = (stretch: number) => ({ ...fine, stretch, stretchWithHeld: stretch });

describe('the pace of a run', () => {
  it('follows what a frame needed, up at once and down slowly', () => {
    expect(substepsAfter(stretched(0.021), 60, limits)).toBe(60);
    expect(substepsAfter(stretched(0.3), 60, limits)).toBe(120);
    expect(substepsAfter(stretched(0.012), 60, limits)).toBe(52);
    // After an impact, where hardly anything is stretched any more, faster.
    expect(substepsAfter(stretched(0.0001), 60, limits)).toBe(40);
    expect(substepsAfter(stretched(0.0001), 32, limits)).toBe(limits.least);
    expect(substepsAfter(stretched(9), 700, limits)).toBe(MOST_SUBSTEPS);
  });

  it('takes a broken frame again with what its stretch asks for, as long as there is more', () => {
    expect(retakeWith(stretched(0.084), 60, limits)).toBe(120);
    expect(retakeWith(stretched(0.031), 60, limits)).toBeGreaterThan(60 * 1.25);
    expect(retakeWith(stretched(9), 60, limits)).toBe(180);
    expect(retakeWith(stretched(9), MOST_SUBSTEPS, limits)).toBeNull();
    expect(retakeWith(stretched(0.031), 60, limits, MOST_RETAKES - 1)).toBe(120);
  });

  it('lets attachments reach farther where they tear at cloth and more substeps do not help, and less again afterwards', () => {
    const taut = { substeps: 120, reach: 1, used: { reach: 1, share: 1 }, before: 0.29 };
    expect(reachFarther(stretched(0.28), taut, limits)).toBeGreaterThan(1.1);
    expect(reachFarther(stretched(0.04), { ...taut, before: 0.041 }, limits)).toBeGreaterThan(1.05);
    // More substeps have helped, or were not tried.
    expect(reachFarther(stretched(0.2), taut, limits)).toBeNull();
    expect(reachFarther(stretched(0.28), { ...taut, before: null }, limits)).toBeNull();
    expect(reachFarther(stretched(0.28), { ...taut, before: null, substeps: MOST_SUBSTEPS }, limits)).not.toBeNull();
    // It is not attachments that tear at it, and what is promised is kept.
    expect(reachFarther(stretched(0.28), { ...taut, used: { reach: 0.9, share: 0.9 } }, limits)).toBeNull();
    expect(reachFarther(stretched(0.02), { ...taut, before: 0.02 }, limits)).toBeNull();
    let reach = 1;
    for (let more: number | null = reach; more !== null;) {
      reach = more;
      more = reachFarther(stretched(9), { ...taut, before: 9, reach, used: { reach, share: 1 } }, limits);
    }
    expect(reach).toBe(1.5);
    // Held points that are that far apart already: reaching farther would change nothing.
    expect(reachFarther(stretched(9), { ...taut, used: { reach: 1.6, share: 1 } }, limits)).toBeNull();
    // As far as they are used they stay; else they reach less again, little by little.
    const loose = { reach: 0.7, share: 0.6 };
    expect(reachAfter(1.2, { reach: 1.2, share: 1 })).toBe(1.2);
    expect(reachAfter(1.2, loose)).toBeLessThan(1.2);
    expect(reachAfter(1.2, loose)).toBeGreaterThan(1.15);
    expect(reachAfter(1, loose)).toBe(1);
  });

  it('takes cloth that crossed before again for its stretch alone: it comes apart by way of more crossings and fewer', () => {
    const crossed = { ...fine, crossings: 12 };
    expect(mendable({ ...stretched(0.01), crossings: 3 }, fine, limits)).toBe('crossed');
    expect(breachOf({ ...stretched(0.01), crossings: 15 }, crossed, limits)).toBe('crossed');
    expect(mendable({ ...stretched(0.01), crossings: 15 }, crossed, limits)).toBeNull();
    expect(mendable({ ...stretched(0.04), crossings: 15 }, crossed, limits)).toBe('stretched');
  });

  it('tells what is stretched between held points, which no substeps mend, from what is stretched besides', () => {
    expect(breachOf({ ...stretched(0.01), stretchWithHeld: 0.2 }, fine, limits)).toBe('heldApart');
    expect(breachOf({ ...stretched(0.04), stretchWithHeld: 0.2 }, fine, limits)).toBe('stretched');
    expect(brokenText({ frame: 3, broke: 'drawnOut', thing: 'a', amount: 0.2, substeps: 800 }, () => 'Skirt')).toMatch(
      /Skirt is stretched by 20 % .* what holds it draws it out, .* farther than it is long/,
    );
    expect(brokenText({ frame: 3, broke: 'heldApart', thing: 'a', amount: 0.2, substeps: 60 }, () => 'Skirt')).toMatch(
      /^Worst at frame 3: Skirt is stretched by 20 % between points that are held farther apart/,
    );
  });

  it('does not ask for substeps where colliders squeeze cloth, unless it is stretched beside them', () => {
    const squeezed = { ...stretched(0.01), stretchWithHeld: 0.2, squeezed: 0.004 };
    expect(breachOf(squeezed, fine, limits)).toBe('squeezed');
    expect(mendable(squeezed, fine, limits)).toBeNull();
    expect(mendable({ ...squeezed, stretch: 0.04 }, fine, limits)).toBe('stretched');
    expect(breachOf({ ...stretched(0.01), squeezed: 5e-5 }, fine, limits)).toBeNull();
  });

  it('does not promise that what was broken before mends itself', () => {
    const crossed = { ...stretched(0), crossings: 3, deepest: 0.002, pierced: 2 };
    expect(breachOf(crossed, fine, limits)).toBe('crossed');
    expect(breachOf(crossed, crossed, limits)).toBeNull();
    expect(breachOf({ ...crossed, pierced: 3 }, crossed, limits)).toBe('pierced');
    expect(breachOf({ ...stretched(0.5), deepest: 0.001 }, fine, limits)).toBe('deep');
    expect(breachOf(stretched(0.04), fine, limits)).toBe('stretched');
  });
});

/** Two heavy sheets over a light one on a crate, which the rule knows nothing of. */
function layered(change: (shot: Shot) => void = () => undefined): Shot {
  const sheet = (id: string, card: string, height: number) =>
    createCloth({
      ...{ id, name: id, card, position: [0, height, 0] },
      shape: { kind: 'sheet', width: 0.5, height: 0.5, spacing: 0.025 },
    });
  const shot = createShot({
    ...{ id: 'layered', name: 'Layered', lastFrame: 16 },
    things: [
      sheet('under', 'silk-chiffon', 0.21),
      sheet('over', 'denim', 0.23),
      createCollider({
        ...{ id: 'crate', name: 'Crate', position: [0, 0.1, 0] },
        shape: { kind: 'box', width: 0.2, height: 0.2, depth: 0.2 },
      }),
    ],
  });
  change(shot);
  return shot;
}

function baked(run: BakeRun, frames: number): { frame: number; stats: FrameStats }[] {
  return Array.from({ length: frames }, () => {
    const { frame, stats } = run.next();
    return { frame, stats };
  });
}

describe('a bake', () => {
  const whole = baked(new BakeRun(layered(), new Map()), 16);

  it('keeps what its quality promises where heavy cloth lies on light, which the rule alone does not', () => {
    const kept = keptPromises(whole)!;
    expect(kept).toMatchObject({ frames: 16, broken: 0, worst: null });
    expect(kept.most).toBeGreaterThan(ruleSubsteps(layered(), new Map()) * 1.5);
    for (const { stats } of whole) {
      expect(stats.falseStretch).toBeLessThanOrEqual(0.03);
      expect(stats.retakes).toBeLessThanOrEqual(MOST_RETAKES);
    }
    const byHand = layered((shot) => (shot.run.substeps = ruleSubsteps(shot, new Map())));
    const fixed = baked(new BakeRun(byHand, new Map()), 16);
    expect(Math.max(...fixed.map(({ stats }) => stats.falseStretch!))).toBeGreaterThan(0.05);
    expect(keptPromises(fixed)).toBeNull();
  });

  it('goes on bit for bit from before and after a frame that was taken again', () => {
    const again = whole.findIndex(({ stats }) => stats.retakes! > 0);
    expect(again).toBeGreaterThan(0);
    for (const after of [again, again + 1]) {
      const run = new BakeRun(layered(), new Map());
      baked(run, after);
      const on = new BakeRun(layered(), new Map(), structuredClone(run.checkpoint()));
      expect(baked(on, 16 - after).map(({ stats }) => stats.fingerprint)).toEqual(
        whole.slice(after).map(({ stats }) => stats.fingerprint),
      );
    }
  });

  it('says which frames broke a promise that cannot be kept, and ends', () => {
    // A strip between two pins that go apart by a fifth, of a fabric that does not give, too fine for as many substeps as there are.
    const shape = { kind: 'sheet', width: 0.4, height: 0.05, spacing: 0.01 } as const;
    const shot = createShot({
      ...{ id: 'torn', name: 'Torn', lastFrame: 8 },
      things: [
        createCloth({
          ...{ id: 'strip', name: 'Strip', card: 'canvas' },
          shape,
          pinSets: [
            { id: 'a', name: 'A', points: sidePoints(sheet(shape), 'start') },
            { id: 'b', name: 'B', points: sidePoints(sheet(shape), 'end') },
          ],
          keys: [
            {
              number: 'hold:b.move.x',
              knots: [
                { frame: 2, value: 0 },
                { frame: 8, value: 0.08 },
              ],
            },
          ],
        }),
      ],
    });
    const kept = keptPromises(baked(new BakeRun(shot, new Map()), 8))!;
    expect(kept.broken).toBeGreaterThan(2);
    expect(kept.worst).toMatchObject({ frame: 8, broke: 'drawnOut', thing: 'strip' });
    expect(brokenText(kept.worst!, () => 'Strip')).toMatch(
      /^Worst at frame 8: Strip is stretched by \d+(\.\d+)? % beyond what its fabric gives, (even )?with \d+ substeps/,
    );
    expect(kept.most).toBeLessThanOrEqual(MOST_SUBSTEPS);
  });
});

/** A foot that steps 5 mm into the ground, onto a sheet that lies there, and rises again. */
function stepOn(): Shot {
  const heights = [
    { frame: 4, value: 0.2 },
    { frame: 12, value: 0.045 },
    { frame: 18, value: 0.045 },
    { frame: 22, value: 0.2 },
  ];
  return createShot({
    ...{ id: 'step', name: 'Step', lastFrame: 28 },
    things: [
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } }),
      createCollider({
        ...{ id: 'foot', name: 'Foot', keys: [{ number: 'position.y', knots: heights }] },
        shape: { kind: 'box', width: 0.1, height: 0.1, depth: 0.2 },
      }),
      createCloth({
        ...{ id: 'rug', name: 'Rug', card: 'cotton-poplin', position: [0, 0.006, 0] },
        shape: { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.02 },
      }),
    ],
  });
}

describe('colliders that leave cloth no room', () => {
  const whole = baked(new BakeRun(stepOn(), new Map()), 28);

  it('are named, with how much is missing and what helps, and nothing else is held against the frame', () => {
    const broken = whole.filter(({ stats }) => stats.kept === false);
    expect(broken.length).toBeGreaterThan(5);
    for (const { stats } of broken) {
      expect(stats).toMatchObject({ broke: 'squeezed', crossings: 0, pierced: 0, squeezedBetween: ['ground', 'foot'] });
      expect(stats.deepest).toBeLessThan(1e-4);
    }
    const { worst } = keptPromises(whole)!;
    expect(worst!.amount).toBeGreaterThan(0.005);
    expect(worst!.amount).toBeLessThan(0.006);
    expect(brokenText(worst!, (id) => ({ ground: 'Ground', foot: 'Foot' })[id])).toMatch(
      /Ground and Foot leave the cloth between them 5\.\d+ mm less room than it is thick\. .* helps\.$/,
    );
  });

  it('ask for no more substeps than what is beside them, and leave the cloth whole', () => {
    expect(keptPromises(whole)!.most).toBeLessThan(MOST_SUBSTEPS / 2);
    expect(whole.at(-1)!.stats).toMatchObject({ kept: true, squeezed: 0, squeezedBetween: null });
    expect(whole.at(-1)!.stats.falseStretch).toBeLessThan(0.01);
  });

  it('let a run go on bit for bit from the middle of it', () => {
    const run = new BakeRun(stepOn(), new Map());
    baked(run, 15);
    const on = new BakeRun(stepOn(), new Map(), structuredClone(run.checkpoint()));
    expect(baked(on, 6).map(({ stats }) => stats)).toEqual(whole.slice(15, 21).map(({ stats }) => stats));
  });
});
