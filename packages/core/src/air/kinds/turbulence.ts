import { z } from 'zod';
import type { Vector3 } from '../../math/vector';
import { quantity } from '../../quantity/quantity';
import { airKind, soft } from '../airKind';
import { eddyNumbers } from '../eddies';
import { ballOutline } from '../outlines';

/** The part of its reach over which it fades. */
const EDGE = 0.3;
const GRID = [-0.6, -0.2, 0.2, 0.6];

export const turbulence = airKind({
  label: 'Turbulence',
  help: 'Eddies without a wind: air that moves hither and thither.',
  words: ['turbulence', 'eddies'],
  schema: z.strictObject({
    kind: z.literal('turbulence'),
    strength: quantity({
      label: 'Strength',
      help: 'Mean speed of the eddies.',
      unit: 'm/s',
      min: 0,
      max: 50,
      default: 2,
      step: 0.05,
      keyable: true,
    }),
    reach: quantity({
      label: 'Reach',
      help: 'How far from its place there are eddies; 0 is everywhere.',
      unit: 'm',
      min: 0,
      max: 100,
      default: 0,
      step: 0.05,
      keyable: true,
    }),
    ...eddyNumbers,
  }),
  eddies: ({ strength, reach }) =>
    reach === 0 ? () => strength : (x, y, z) => strength * soft((1 - Math.sqrt(x * x + y * y + z * z) / reach) / EDGE),
  shownAt: ({ reach, eddySize }) => {
    const half = reach > 0 ? reach : Math.min(2, eddySize * 2);
    return GRID.flatMap((x) => GRID.flatMap((y) => GRID.map((z): Vector3 => [x * half, y * half, z * half])));
  },
  outline: ({ reach }) => (reach > 0 ? ballOutline(reach) : []),
});
