import { z } from 'zod';
import { ring as ringMesh, tubePoints } from '../../mesh/shapes/ring';
import { across, allAround, lengthNumber, segmentsNumber, shapeKind, tidySize } from './shapeKind';

export const ring = shapeKind({
  label: 'Ring',
  words: ['ring'],
  sizes: ['radius', 'tubeRadius'],
  start: {},
  schema: z.strictObject({
    kind: z.literal('ring'),
    radius: lengthNumber('Radius', 'From the centre to the middle of the tube.', 0.3),
    tubeRadius: lengthNumber('Thickness', 'Radius of the tube.', 0.05),
    segments: segmentsNumber(48),
  }),
  foot: ({ tubeRadius }) => tubeRadius,
  mesh: (shape, _, counted = shape) => ringMesh({ ...shape, around: tubePoints(counted) }),
  resize: (shape, by) => ({
    ...shape,
    radius: tidySize(shape.radius * across(by)),
    tubeRadius: tidySize(shape.tubeRadius * allAround(by)),
  }),
});
