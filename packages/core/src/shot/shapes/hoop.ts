import { z } from 'zod';
import { hoop as hoopMesh } from '../../mesh/shapes/hoop';
import { quantity } from '../../quantity/quantity';
import { LEAST_SIZE, across, allAround, lengthNumber, segmentsNumber, shapeKind, tidySize } from './shapeKind';

export const hoop = shapeKind({
  label: 'Hoop',
  words: ['hoop'],
  sizes: ['radius', 'leg', 'tubeRadius'],
  start: {},
  schema: z
    .strictObject({
      kind: z.literal('hoop'),
      radius: lengthNumber('Radius', 'Of the half round, to the middle of the rod.', 0.5),
      leg: quantity({
        label: 'Leg',
        help: 'How far the rod goes on straight down on either side.',
        unit: 'm',
        min: 0,
        max: 1000,
        default: 0.5,
        step: 0.005,
      }),
      tubeRadius: lengthNumber('Thickness', 'Radius of the rod.', 0.015),
      segments: segmentsNumber(32),
    })
    .superRefine(({ radius, tubeRadius }, context) => {
      if (tubeRadius >= radius)
        context.addIssue({ code: 'custom', path: ['tubeRadius'], message: 'the rod is as thick as the hoop is wide' });
    }),
  mesh: (shape, _, counted) =>
    hoopMesh(counted && counted.leg > 0 ? { ...shape, leg: Math.max(LEAST_SIZE, shape.leg) } : shape),
  resize: (shape, [x, y, z]) => ({
    ...shape,
    radius: tidySize(shape.radius * across([x, 1, y])),
    leg: tidySize(shape.leg * y),
    tubeRadius: tidySize(shape.tubeRadius * allAround([x, y, z])),
  }),
});
