import { z } from 'zod';
import { ground as groundMesh } from '../../mesh/shapes/ground';
import { shapeKind } from './shapeKind';

export const ground = shapeKind({
  label: 'Ground',
  words: ['ground'],
  sizes: [],
  start: {},
  schema: z.strictObject({ kind: z.literal('ground') }),
  mesh: () => groundMesh(),
  resize: (shape) => shape,
  body: () => ({ kind: 'plane' }),
});
