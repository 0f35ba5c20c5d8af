import { z } from 'zod';
import { arch as archMesh, archGirth } from '../../mesh/shapes/arch';
import { quantity } from '../../quantity/quantity';
import { across, lengthNumber, shapeKind, spacingNumber, spacingProblem, tidySize } from './shapeKind';

export const arch = shapeKind({
  label: 'Arch',
  words: ['arch'],
  sizes: ['length', 'radius', 'skirt'],
  start: {},
  isCloth: true,
  schema: z
    .strictObject({
      kind: z.literal('arch'),
      length: lengthNumber('Length', 'Along the warp, from mouth to mouth.', 2),
      radius: lengthNumber('Radius', 'Of the half round over its top.', 0.5),
      skirt: quantity({
        label: 'Skirt',
        help: 'How far it goes on straight down on either side.',
        unit: 'm',
        min: 0,
        max: 1000,
        default: 0.5,
        step: 0.005,
      }),
      spacing: spacingNumber(),
    })
    .superRefine(({ length, radius, skirt, spacing }, context) => {
      const message = spacingProblem(length, archGirth({ radius, skirt }), spacing);
      if (message) context.addIssue({ code: 'custom', path: ['spacing'], message });
    }),
  mesh: (shape) => archMesh(shape),
  resize: (shape, by) => {
    const [length, radius] = [tidySize(shape.length * by[0]), tidySize(shape.radius * across([by[1], 1, by[2]]))];
    return { ...shape, length, radius, skirt: tidySize(shape.skirt * by[1]) };
  },
});
