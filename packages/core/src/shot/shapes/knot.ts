import { z } from 'zod';
import { knot as knotMesh } from '../../mesh/shapes/knot';
import { quantity } from '../../quantity/quantity';
import { across, allAround, lengthNumber, shapeKind, tidySize } from './shapeKind';

export const knot = shapeKind({
  label: 'Knot',
  words: ['knot'],
  sizes: ['radius', 'tubeRadius'],
  start: {},
  schema: z
    .strictObject({
      kind: z.literal('knot'),
      radius: lengthNumber('Radius', 'From the centre to the middle of the knot.', 0.3),
      tubeRadius: lengthNumber('Thickness', 'Radius of the rope.', 0.05),
      windings: quantity({
        label: 'Windings',
        help: 'How often the rope winds around while it goes around twice; odd numbers make one rope.',
        unit: '',
        min: 3,
        max: 15,
        default: 3,
        step: 2,
        whole: true,
      }),
      segments: quantity({
        label: 'Points along',
        help: 'More make it rounder; 128 to 256 are plenty.',
        unit: '',
        min: 32,
        max: 1024,
        default: 160,
        step: 8,
        whole: true,
        affects: 'look',
      }),
    })
    .superRefine(({ windings }, context) => {
      if (windings % 2 === 0)
        context.addIssue({ code: 'custom', path: ['windings'], message: 'the windings must be an odd number' });
    }),
  foot: ({ radius, tubeRadius }) => radius * 0.45 + tubeRadius,
  mesh: (shape) => knotMesh(shape),
  resize: (shape, by) => ({
    ...shape,
    radius: tidySize(shape.radius * across(by)),
    tubeRadius: tidySize(shape.tubeRadius * allAround(by)),
  }),
});
