import { z } from 'zod';
import { cylinder as cylinderMesh } from '../../mesh/shapes/cylinder';
import { across, lengthNumber, segmentsNumber, shapeKind, tidySize } from './shapeKind';

export const cylinder = shapeKind({
  label: 'Cylinder',
  words: ['cylinder', 'post', 'pole'],
  sizes: ['radius', 'height'],
  start: {},
  schema: z.strictObject({
    kind: z.literal('cylinder'),
    radius: lengthNumber('Radius', 'From the axis to the surface.', 0.1),
    height: lengthNumber('Height', 'Along its axis.', 1),
    segments: segmentsNumber(32),
  }),
  mesh: (shape) => cylinderMesh(shape),
  resize: (shape, by) => ({
    ...shape,
    radius: tidySize(shape.radius * across(by)),
    height: tidySize(shape.height * by[1]),
  }),
  body: ({ radius, height }) => ({ kind: 'cylinder', radius, height }),
});
