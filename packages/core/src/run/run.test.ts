import { describe, expect, it } from 'vitest';
import { ball } from '../mesh/shapes/ball';
import { createAir, createCloth, createCollider, createShot, createPinSet, createTie } from '../shot/create';
import { edit } from '../shot/edit';
import type { Shot } from '../shot/schema';
import { QUALITIES } from '../solver/substeps';
import { BakeRun, bakeFrames, RunStoppedError } from './bakeRun';
import { CompileError, ruleSubsteps } from './compile';
import { changedInputs, inputsHash, runInputs } from './inputs';
import { SettleRun } from './settleRun';
import { gustFactor } from '../air/gusts';

const shot = (change: (draft: Shot) => void = () => undefined): Shot =>
  edit(
    createShot({
      name: 'Test',
      lastFrame: 12,
      run: { quality: 'draft' },
      things: [
        createCloth({
          id: 'cover',
          name: 'Cover',
          shape: { kind: 'sheet', width: 0.5, height: 0.4, spacing: 0.05 },
          position: [0, 0.3, 0],
        }),
        createCollider({
          id: 'box',
          name: 'Box',
          shape: { kind: 'box', width: 0.2, height: 0.2, depth: 0.2 },
          position: [0, 0.1, 0],
        }),
        createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } }),
      ],
    }),
    'Change',
    change,
  ).shot;

const none = new Map();
const fingerprints = (run: BakeRun, count: number) => Array.from({ length: count }, () => run.next().stats.fingerprint);

describe('bake', () => {
  it('gives the same bits every time, and goes on from a checkpoint to the same end', () => {
    const whole = fingerprints(new BakeRun(shot(), none), 12);
    expect(fingerprints(new BakeRun(shot(), none), 12)).toEqual(whole);
    const first = new BakeRun(shot(), none);
    fingerprints(first, 5);
    const checkpoint = structuredClone(first.checkpoint());
    expect(fingerprints(new BakeRun(shot(), none, checkpoint), 7)).toEqual(whole.slice(5));
  });

  it('is given up in the middle of a frame when it is told to, and is then where it was before', () => {
    const whole = fingerprints(new BakeRun(shot(), none), 12);
    const run = new BakeRun(shot(), none);
    const first = fingerprints(run, 5);
    const shares: number[] = [];
    const stopped = run.tryNext((share) => {
      shares.push(share);
      return shares.length < 3;
    });
    expect(stopped).toBeNull();
    expect(shares).toHaveLength(3);
    expect(shares[0]).toBeCloseTo(1 / ruleSubsteps(shot(), none), 9);
    expect(run.checkpoint().frame).toBe(5);
    expect([...first, ...fingerprints(run, 7)]).toEqual(whole);
    expect(fingerprints(new BakeRun(shot(), none, run.checkpoint()), 1)).toHaveLength(1);
    // Also in the pre-roll, where there is no frame yet.
    const rolled = shot((draft) => void (draft.preRoll = 6));
    const later = new BakeRun(rolled, none);
    expect(later.tryNext(() => false)).toBeNull();
    expect(later.preRollLeft).toBe(6);
    expect(later.next().stats.fingerprint).toBe(new BakeRun(rolled, none).next().stats.fingerprint);
  });

  it('depends on what decides how cloth meets cloth, also where substeps are set by hand', () => {
    const byHand = (quality: Shot['run']['quality']) =>
      runInputs(
        shot((draft) => void (draft.run = { quality, substeps: 20 })),
        none,
      );
    expect(inputsHash(byHand('draft'))).not.toBe(inputsHash(byHand('shot')));
    expect(inputsHash(byHand('shot'))).toBe(inputsHash(byHand('final')));
  });

  it('depends on how finely a shape is meshed where its mesh is run: as cloth, or tied to; else it does not', () => {
    const ball = { kind: 'ball', radius: 0.2, detail: 2 } as const;
    const change = (draft: Shot) => {
      const found = draft.things.find(({ id }) => id === 'ball')!;
      if ('shape' in found && found.shape.kind === 'ball') found.shape.detail = 3;
    };
    const differs = (of: Shot) =>
      inputsHash(runInputs(of, none)) !== inputsHash(runInputs(edit(of, '', change).shot, none));
    const with_ = (...things: Shot['things']) => shot((draft) => void draft.things.push(...things));
    expect(differs(with_(createCollider({ id: 'ball', name: 'Ball', shape: ball })))).toBe(false);
    expect(differs(with_(createCloth({ id: 'ball', name: 'Ball', shape: ball })))).toBe(true);
    const tied = createCloth({
      ...{ id: 't', name: 'Tied', shape: { kind: 'sheet', width: 0.2, height: 0.2, spacing: 0.1 } as const },
      ties: [createTie({ name: 'Ties', points: [0], to: 'ball' })],
    });
    expect(differs(with_(createCollider({ id: 'ball', name: 'Ball', shape: ball }), tied))).toBe(true);
  });

  it('begins with the cloth as cut, or after the pre-roll', () => {
    const now = new BakeRun(shot(), none).next();
    expect(now.frame).toBe(1);
    expect(now.positions[0]![1]).toBeCloseTo(0.3, 6);
    const later = new BakeRun(
      shot((draft) => void (draft.preRoll = 6)),
      none,
    ).next();
    expect(later.positions[0]![1]).toBeLessThan(0.28);
  });

  it('stops when it is told to', async () => {
    const control = new AbortController();
    const seen: number[] = [];
    for await (const { frame } of bakeFrames(new BakeRun(shot(), none), 12, control.signal)) {
      seen.push(frame);
      if (frame === 4) control.abort();
    }
    expect(seen).toEqual([1, 2, 3, 4]);
  });

  it('never gives a frame that is not finite: it stops and names the frame', () => {
    const run = new BakeRun(
      shot((draft) => {
        const cloth = draft.things[0]!;
        if (cloth.role === 'cloth') Object.assign(cloth, { position: [0, 1e38, 0] });
      }),
      none,
    );
    const bake = () => {
      for (let n = 0; n < 12; n++)
        for (const value of run.next().positions[0]!) expect(Number.isFinite(value)).toBe(true);
    };
    try {
      bake();
    } catch (error) {
      expect(error).toBeInstanceOf(RunStoppedError);
      expect(String(error)).toMatch(/frame \d+: “Cover”/);
    }
  });

  it('says what is missing', () => {
    const off = (draft: Shot) => void (draft.things[0]!.enabled = false);
    expect(() => new BakeRun(shot(off), none)).toThrow(/There is no cloth in the run/);
    const lost = shot(
      (draft) => void draft.things.push(createCollider({ name: 'Rock', shape: { kind: 'mesh', asset: 'gone' } })),
    );
    expect(() => new BakeRun(lost, none)).toThrow(/“gone” is not in this shot/);
    const pinned = shot((draft) => {
      const cloth = draft.things[0]!;
      if (cloth.role === 'cloth') cloth.pinSets = [createPinSet({ name: 'P', points: [100000] })];
    });
    expect(() => new BakeRun(pinned, none)).toThrow(CompileError);
  });
});

describe('settle', () => {
  it('comes to rest on the box', () => {
    const run = new SettleRun(
      shot((draft) => void (draft.run.quality = 'shot')),
      none,
    );
    let step = run.next();
    for (let n = 0; n < 150 && !step.atRest; n++) step = run.next();
    expect(step.atRest).toBe(true);
    expect(step.maxStretch).toBeLessThan(0.05);
    expect(Math.max(...step.positions[0]!.filter((_, i) => i % 3 === 1))).toBeLessThan(0.225);
  });
});

describe('what a run depends on', () => {
  const base = runInputs(shot(), none);
  const cases: [string, (draft: Shot) => void, boolean][] = [
    ['a name', (draft) => void (draft.things[0]!.name = 'Other'), false],
    ['a colour', (draft) => void ((draft.things[1] as { colour: string }).colour = '#000000'), false],
    ['the print', (draft) => void ((draft.things[0] as { print: { kind: string } }).print.kind = 'check'), false],
    ['hiding a thing', (draft) => void (draft.things[1]!.visible = false), false],
    ['the last frame', (draft) => void (draft.lastFrame = 50), false],
    ['bending', (draft) => void ((draft.things[0] as { fabric: { bendWarp: number } }).fabric.bendWarp *= 2), true],
    ['moving a collider', (draft) => void (draft.things[1]!.position[0] += 0.01), true],
    ['leaving a collider out', (draft) => void (draft.things[1]!.enabled = false), true],
    ['gravity', (draft) => void (draft.gravity.enabled = false), true],
    ['wind', (draft) => void draft.things.push(createAir({ name: 'Wind' })), true],
    ['a wind that is off', (draft) => void draft.things.push(createAir({ name: 'Wind', enabled: false })), false],
    [
      'a pin',
      (draft) => void (draft.things[0] as { pinSets: object[] }).pinSets.push({ id: 'a', name: 'A', points: [0] }),
      true,
    ],
    ['substeps', (draft) => void (draft.run.substeps = 77), true],
  ];
  it.each(cases)('%s', (_, change, matters) => {
    const now = runInputs(shot(change), none);
    expect(inputsHash(now) !== inputsHash(base)).toBe(matters);
    expect(changedInputs(base, now).length > 0).toBe(matters);
  });

  it('depends on the mesh of an asset', () => {
    const withMesh = shot(
      (draft) =>
        void draft.things.push(createCollider({ id: 'rock', name: 'Rock', shape: { kind: 'mesh', asset: 'r' } })),
    );
    const hash = (radius: number) => inputsHash(runInputs(withMesh, new Map([['r', ball({ radius, detail: 1 })]])));
    expect(hash(0.1)).toBe(hash(0.1));
    expect(hash(0.1)).not.toBe(hash(0.2));
  });
});

it('whether cloth touches itself, and keys, are inputs of a run; names are not', () => {
  const hash = (change: (draft: Shot) => void) => inputsHash(runInputs(shot(change), none));
  const before = hash(() => undefined);
  const cloth = (draft: Shot) =>
    draft.things.find(({ role }) => role === 'cloth') as { selfContact: { enabled: boolean } };
  expect(hash((d) => void (cloth(d).selfContact.enabled = false))).not.toBe(before);
  const keys = [{ number: 'position.x' as const, knots: [{ frame: 1, value: 2, ease: 'linear' as const }] }];
  expect(hash((d) => void (d.things.find(({ role }) => role === 'collider')!.keys = keys))).not.toBe(before);
  expect(hash((d) => void (d.things[0]!.name = 'Other'))).toBe(before);
});

describe('substeps', () => {
  const fingerprinted = (of: Shot) => {
    const run = new BakeRun(of, none);
    run.next();
    return run.next();
  };

  it('grow with quality, finer spacing and stronger wind, and can be set by hand', () => {
    const spaced = (draft: Shot, spacing: number) =>
      void ((draft.things[0] as { shape: { spacing: number } }).shape.spacing = spacing);
    const at = (change: (draft: Shot) => void) =>
      ruleSubsteps(
        shot((draft) => {
          spaced(draft, 0.015);
          change(draft);
        }),
        none,
      );
    const draft = at(() => undefined);
    expect(draft).toBeGreaterThan(QUALITIES.draft.fewest);
    expect(at((d) => spaced(d, 0.2))).toBe(QUALITIES.draft.fewest);
    expect(at((d) => void (d.run.quality = 'final'))).toBeGreaterThan(draft * 2);
    expect(at((d) => spaced(d, 0.0075))).toBeGreaterThan(draft * 1.8);
    expect(
      at((d) => void d.things.push(createAir({ name: 'Wind', air: { kind: 'wind', speed: 12 } }))),
    ).toBeGreaterThan(draft * 1.5);
    const byHand = shot((d) => void (d.run.substeps = 9));
    expect(fingerprinted(byHand).stats).toMatchObject({ substeps: 9, retakes: 0, kept: null });
  });
});

it('gusts keep their mean', () => {
  const wind = { gustDepth: 0.5, gustPeriod: 2, gustSeed: 3 };
  let sum = 0;
  for (let n = 0; n < 20000; n++) sum += gustFactor(wind, n * 0.01);
  expect(sum / 20000).toBeCloseTo(1, 2);
});

it.each([7, 13])(
  'a key that holds acts at its frame, whatever the sum of %i substeps a frame rounds to',
  (substeps) => {
    const keyFrames = [20, 47, 83];
    for (const frame of keyFrames) {
      const still = createShot({
        ...{ name: 'Held', lastFrame: 100, run: { substeps, quality: 'shot' } },
        gravity: { strength: 9.81 },
        keys: [
          {
            number: 'gravity.strength',
            knots: [
              { frame: 1, value: 0, ease: 'hold' },
              { frame, value: 9.81, ease: 'hold' },
            ],
          },
        ],
        things: [
          createCloth({
            ...{ name: 'Sheet', fabric: { airAcross: 0, airAlong: 0, damping: 0 } as never },
            shape: { kind: 'sheet', width: 0.1, height: 0.1, spacing: 0.05 },
          }),
        ],
      });
      const run = new BakeRun(still, none);
      const height = () => run.next().positions[0]![1]!;
      let now = height();
      for (let n = 1; n < frame; n++) now = height();
      expect(now).toBeCloseTo(0, 7);
      // Semi-implicit steps fall a little farther than g t^2 / 2.
      expect(height()).toBeCloseTo((-9.81 / 24 ** 2 / 2) * (1 + 1 / substeps), 4);
    }
  },
);
