import { expect, it } from 'vitest';
import { rectangleNodes, type PatternNode } from '@lumbra/core';
import { draggedNode, gridStep, loopPath, snapped } from './flatSpace';

const node = (before: [number, number] | null, after: [number, number] | null): PatternNode => ({
  ...{ id: 'n', at: [1, 1], before, after },
});

it('keeps a dragged node to whole millimetres, and to what it lines up with', () => {
  // At 500 pixels a metre six pixels are 12 mm.
  const others = [
    [0.3, 0.7],
    [0.31, 2],
  ] as const;
  expect(snapped([0.1234, 0.5678], others, 500, false)).toEqual({ at: [0.123, 0.568], guides: { u: null, v: null } });
  expect(snapped([0.304, 0.5678], others, 500, false)).toEqual({ at: [0.3, 0.568], guides: { u: 0.3, v: null } });
  expect(snapped([0.309, 0.695], others, 500, false)).toEqual({ at: [0.31, 0.7], guides: { u: 0.31, v: 0.7 } });
  expect(snapped([0.309, 0.695], others, 500, true).at).toEqual([0.309, 0.695]);
  // Looked at from nearer, less is near.
  expect(snapped([0.304, 0.5], others, 5000, false).guides.u).toBeNull();
});

it('turns the other handle of a smooth node along, and leaves it be at a corner or when asked to', () => {
  const smooth = node([-0.2, 0], [0.1, 0]);
  expect(draggedNode(smooth, 'after', [1, 1.3], false)).toEqual({
    after: [0, expect.closeTo(0.3, 9)],
    before: [-0, -0.2],
  });
  expect(draggedNode(smooth, 'after', [1, 1.3], true)).toEqual({ after: [0, expect.closeTo(0.3, 9)] });
  expect(draggedNode(node([0, -0.2], [0.1, 0]), 'after', [1, 1.3], false)).not.toHaveProperty('before');
  expect(draggedNode(node(null, [0.1, 0]), 'after', [1, 1.3], false)).not.toHaveProperty('before');
  expect(draggedNode(smooth, 'at', [2, 3], false)).toEqual({ at: [2, 3] });
});

it('draws borders with v up, and a grid whose lines are neither crowded nor far', () => {
  expect(loopPath(rectangleNodes(2, 1))).toBe(
    'M-1.00000 0.50000L1.00000 0.50000L1.00000 -0.50000L-1.00000 -0.50000L-1.00000 0.50000Z',
  );
  for (const scale of [5, 50, 400, 3000, 20_000]) {
    const pixels = gridStep(scale) * scale;
    expect(pixels).toBeGreaterThanOrEqual(20);
    expect(pixels).toBeLessThanOrEqual(120);
  }
});
