import { z } from 'zod';
import { cone as coneMesh } from '../../mesh/shapes/cone';
import { LEAST_SIZE, across, lengthNumber, segmentsNumber, shapeKind, tidySize } from './shapeKind';

export const cone = shapeKind({
  label: 'Cone',
  words: ['cone'],
  sizes: ['radius', 'height', 'topRadius'],
  start: {},
  schema: z.strictObject({
    kind: z.literal('cone'),
    radius: lengthNumber('Radius', 'At its foot.', 0.25),
    topRadius: lengthNumber('Top radius', 'At its top; 0 ends in a point.', 0, 0),
    height: lengthNumber('Height', 'From foot to top.', 0.5),
    segments: segmentsNumber(40),
  }),
  mesh: (shape, _, counted) =>
    coneMesh(counted && counted.topRadius > 0 ? { ...shape, topRadius: Math.max(LEAST_SIZE, shape.topRadius) } : shape),
  resize: (shape, by) => ({
    ...shape,
    radius: tidySize(shape.radius * across(by)),
    topRadius: tidySize(shape.topRadius * across(by)),
    height: tidySize(shape.height * by[1]),
  }),
});
