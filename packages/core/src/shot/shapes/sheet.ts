import { z } from 'zod';
import { sheet as sheetMesh } from '../../mesh/shapes/sheet';
import { lengthNumber, shapeKind, spacingNumber, spacingProblem, tidySize } from './shapeKind';

export const sheet = shapeKind({
  label: 'Sheet',
  words: ['sheet', 'cloth'],
  sizes: ['width', 'height'],
  start: {},
  isCloth: true,
  schema: z
    .strictObject({
      kind: z.literal('sheet'),
      width: lengthNumber('Width', 'Along the warp.', 1),
      height: lengthNumber('Height', 'Along the weft.', 1),
      spacing: spacingNumber(),
    })
    .superRefine(({ width, height, spacing }, context) => {
      const message = spacingProblem(width, height, spacing);
      if (message) context.addIssue({ code: 'custom', path: ['spacing'], message });
    }),
  mesh: (shape) => sheetMesh(shape),
  resize: (shape, [x, , z]) => {
    const [width, height] = [tidySize(shape.width * x), tidySize(shape.height * z)];
    // The spacing stays, so that folds stay as fine, unless it no longer fits.
    return { ...shape, width, height, spacing: Math.min(shape.spacing, width, height) };
  },
});

export type SheetShape = z.infer<(typeof sheet)['schema']>;
