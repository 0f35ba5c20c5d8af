import { describe, expect, it } from 'vitest';
import { findCard } from '../fabric/swatchBook';
import type { Mesh } from '../mesh/mesh';
import { patternFromSheet } from '../pattern/fromSheet';
import { createCloth, createPinSet, createShot } from '../shot/create';
import { shapeMesh, type Shape, type SheetShape } from '../shot/shapes';
import { BakeRun } from './bakeRun';

const NONE = new Map<string, Mesh>();
const SHEET: SheetShape = { kind: 'sheet', width: 0.5, height: 0.4, spacing: 0.04 };
const canvas = findCard('canvas')!.fabric;

/** Points of a shape for which a test of their u and v, about its middle, holds. */
function pointsWhere(shape: Shape, test: (x: number, z: number) => boolean): number[] {
  const { positions } = shapeMesh(shape, NONE);
  return Array.from({ length: positions.length / 3 }, (_, i) => i).filter((i) =>
    test(positions[i * 3]!, positions[i * 3 + 2]!),
  );
}

describe('cloth that is taut by its rest size between what holds it', () => {
  it.each([
    ['a sheet', SHEET as Shape],
    ['a pattern', { ...patternFromSheet(SHEET), weave: 'all directions' } as Shape],
  ])('%s is stretched evenly, by what it is taut and no more', (_, shape) => {
    const sides = pointsWhere(shape, (x) => Math.abs(x) > 0.2499);
    expect(sides.length).toBeGreaterThan(10);
    const cloth = createCloth({
      ...{ name: 'x', shape, position: [0, 1, 0], fabric: { ...canvas, restWarp: 0.985, restWeft: 0.985 } },
      pinSets: [createPinSet({ name: 'Sides', points: sides })],
    });
    const run = new BakeRun(createShot({ name: 'x', things: [cloth], lastFrame: 20 }), NONE);
    const frames = Array.from({ length: 12 }, () => run.next().stats);
    // 1.5 % is what it is taut; attachments from both sides that are shorter together than it is long tear at it by 5 %.
    expect(frames.at(-1)!.maxStretch).toBeLessThan(0.027);
    expect(frames.at(-1)!.substeps).toBeLessThan(150);
  });
});
