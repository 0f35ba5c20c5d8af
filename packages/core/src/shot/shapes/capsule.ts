import { z } from 'zod';
import { capsule as capsuleMesh } from '../../mesh/shapes/capsule';
import { LEAST_SIZE, across, lengthNumber, segmentsNumber, shapeKind, tidySize } from './shapeKind';

export const capsule = shapeKind({
  label: 'Capsule',
  words: ['capsule'],
  sizes: ['radius', 'height'],
  start: {},
  schema: z
    .strictObject({
      kind: z.literal('capsule'),
      radius: lengthNumber('Radius', 'Of the body and of its round ends.', 0.1),
      height: lengthNumber('Height', 'From end to end, round ends included.', 1),
      segments: segmentsNumber(32),
    })
    .superRefine(({ height, radius }, context) => {
      if (height < 2 * radius)
        context.addIssue({ code: 'custom', path: ['height'], message: 'the height is less than its round ends need' });
    }),
  mesh: (shape, _, counted) =>
    capsuleMesh(counted ? { ...shape, height: Math.max(2 * (shape.radius + LEAST_SIZE), shape.height) } : shape),
  resize: (shape, by) => {
    const radius = tidySize(shape.radius * across(by));
    return { ...shape, radius, height: Math.max(tidySize(shape.height * by[1]), 2 * radius) };
  },
  body: ({ radius, height }) => ({ kind: 'capsule', radius, height }),
});
