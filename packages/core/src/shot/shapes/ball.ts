import { z } from 'zod';
import { ball as ballMesh } from '../../mesh/shapes/ball';
import { quantity } from '../../quantity/quantity';
import { allAround, lengthNumber, shapeKind, tidySize } from './shapeKind';

export const ball = shapeKind({
  label: 'Ball',
  words: ['ball'],
  sizes: ['radius'],
  start: { radius: 0.25 },
  schema: z.strictObject({
    kind: z.literal('ball'),
    radius: lengthNumber('Radius', 'From the centre to the surface.', 0.5),
    detail: quantity({
      label: 'Detail',
      help: 'How finely its surface is drawn; the run always uses the exact ball.',
      unit: '',
      min: 0,
      max: 6,
      default: 3,
      step: 1,
      whole: true,
      affects: 'look',
    }),
  }),
  mesh: (shape) => ballMesh(shape),
  resize: (shape, by) => ({ ...shape, radius: tidySize(shape.radius * allAround(by)) }),
  body: ({ radius }) => ({ kind: 'ball', radius }),
});
