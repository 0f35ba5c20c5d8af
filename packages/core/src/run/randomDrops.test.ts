import { describe, expect, it } from 'vitest';
import { SWATCH_BOOK } from '../fabric/swatchBook';
import { createCloth, createCollider, createShot } from '../shot/create';
import type { Shot } from '../shot/schema';
import { SHAPES, type Shape } from '../shot/shapes';
import { BakeRun } from './bakeRun';

/** A repeatable stream of numbers from 0 to 1. */
function stream(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

const KINDS = ['box', 'ball', 'cylinder', 'capsule', 'cone', 'ring', 'tube', 'knot'] as const;

/** Two cloths of random fabric, size and attitude, thrown on two random shapes. */
function randomDrop(seed: number): Shot {
  const next = stream(seed * 7919);
  const between = (low: number, high: number) => low + (high - low) * next();
  const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!;
  const cloth = (id: string, height: number) => {
    const spacing = between(0.018, 0.03);
    const [width, depth] = [0, 1].map(() => spacing * Math.floor(between(8, 15)));
    return createCloth({
      ...{ id, name: id, card: pick(SWATCH_BOOK).id, position: [between(-0.03, 0.03), height, between(-0.03, 0.03)] },
      rotation: [between(-0.35, 0.35), between(-3, 3), between(-0.35, 0.35)],
      shape: { kind: 'sheet', width: width!, height: depth!, spacing },
    });
  };
  const thing = (id: string, away: number) => {
    const kind = pick(KINDS);
    const { schema, resize, start } = SHAPES[kind];
    const whole = schema.parse({ kind, ...start }) as Shape;
    const by = between(0.1, 0.2) / 0.5;
    return createCollider({
      ...{ id, name: id, shape: resize(whole, [by, by, by]), friction: between(0, 0.8) },
      position: [away + between(-0.03, 0.03), between(0.05, 0.12), between(-0.05, 0.05)],
      rotation: [between(-1, 1), between(-3, 3), between(-1, 1)],
    });
  };
  return createShot({
    ...{ id: `drop-${seed}`, name: `Drop ${seed}`, lastFrame: 18 },
    things: [
      cloth('under', between(0.38, 0.42)),
      cloth('over', between(0.66, 0.7)),
      thing('left', -0.08),
      thing('right', 0.08),
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } }),
    ],
  });
}

describe('two cloths that fall on what there is', () => {
  // LUMBRA_NIGHTLY=1 tries two hundred.
  const drops = process.env['LUMBRA_NIGHTLY'] ? 200 : 30;
  it(`never cross and are never pierced, and keep their promise, in ${drops} random drops`, () => {
    for (let seed = 1; seed <= drops; seed++) {
      const run = new BakeRun(randomDrop(seed), new Map());
      for (let frame = 1; frame <= 18; frame++) {
        const { crossings, pierced, kept } = run.next().stats;
        expect({ crossings, pierced, kept }, `drop ${seed}, frame ${frame}`).toEqual({
          crossings: 0,
          pierced: 0,
          kept: true,
        });
      }
    }
  }, 600_000);
});
