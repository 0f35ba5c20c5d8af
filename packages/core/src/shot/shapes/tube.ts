import { z } from 'zod';
import { tube as tubeMesh } from '../../mesh/shapes/tube';
import { across, lengthNumber, segmentsNumber, shapeKind, tidySize } from './shapeKind';

export const tube = shapeKind({
  label: 'Tube',
  words: ['tube', 'pipe'],
  sizes: ['radius', 'height', 'wall'],
  start: {},
  schema: z
    .strictObject({
      kind: z.literal('tube'),
      radius: lengthNumber('Radius', 'From the axis to the outside.', 0.2),
      wall: lengthNumber('Wall', 'Thickness of the wall.', 0.02),
      height: lengthNumber('Height', 'Along its axis.', 0.5),
      segments: segmentsNumber(48),
    })
    .superRefine(({ wall, radius }, context) => {
      if (wall >= radius)
        context.addIssue({ code: 'custom', path: ['wall'], message: 'the wall is as thick as the tube' });
    }),
  mesh: (shape) => tubeMesh(shape),
  resize: (shape, by) => ({
    ...shape,
    radius: tidySize(shape.radius * across(by)),
    wall: tidySize(shape.wall * across(by)),
    height: tidySize(shape.height * by[1]),
  }),
});
