import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { poseOf } from '../math/pose';
import type { Vector3 } from '../math/vector';
import { meshBounds } from '../mesh/bounds';
import { placeBy } from '../mesh/place';
import { footOf } from './foot';
import { shapeMesh, SHAPE_KINDS, SHAPES, type Shape } from './shapes';

const KINDS = SHAPE_KINDS.filter((kind) => !['mesh', 'ground', 'sheet', 'pattern'].includes(kind));

describe('the foot of a thing that is turned', () => {
  it.each(KINDS)('is the lowest place of a %s', (kind) => {
    const shape = SHAPES[kind].schema.parse({ ...SHAPES[kind].start, kind }) as unknown as Shape;
    const mesh = shapeMesh(shape, new Map());
    const { low, high } = meshBounds(mesh)!;
    // Meshes of round bodies lie inside them.
    const round = 0.02 * Math.hypot(...high.map((value, axis) => value - low[axis]!));
    const angle = fc.double({ min: -4, max: 4, noNaN: true });
    fc.assert(
      fc.property(angle, angle, angle, (...turn: Vector3) => {
        const lowest = -meshBounds(placeBy(mesh, poseOf([0, 0, 0], turn)))!.low[1];
        const foot = footOf(shape, new Map(), turn);
        expect(foot).toBeGreaterThanOrEqual(lowest - 1e-5);
        expect(foot).toBeLessThanOrEqual(lowest + round);
      }),
      { numRuns: 30 },
    );
  });
});
