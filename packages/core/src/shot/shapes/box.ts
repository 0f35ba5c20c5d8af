import { z } from 'zod';
import { box as boxMesh } from '../../mesh/shapes/box';
import { lengthNumber, shapeKind, tidySize } from './shapeKind';

export const box = shapeKind({
  label: 'Box',
  words: ['box'],
  sizes: ['width', 'height', 'depth'],
  start: { width: 0.5, height: 0.5, depth: 0.5 },
  schema: z.strictObject({
    kind: z.literal('box'),
    width: lengthNumber('Width', 'Along x.', 1),
    height: lengthNumber('Height', 'Along y, upwards.', 1),
    depth: lengthNumber('Depth', 'Along z.', 1),
  }),
  mesh: ({ width, height, depth }) => boxMesh({ size: [width, height, depth] }),
  resize: (shape, [x, y, z]) => ({
    ...shape,
    width: tidySize(shape.width * x),
    height: tidySize(shape.height * y),
    depth: tidySize(shape.depth * z),
  }),
  body: ({ width, height, depth }) => ({ kind: 'box', size: [width, height, depth] }),
});
