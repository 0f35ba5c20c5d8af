import { z } from 'zod';
import { quantity } from '../../quantity/quantity';
import { cueWhen } from '../cueWhen';

export const stretched = cueWhen({
  label: 'it is stretched',
  words: ['stretched'],
  help: 'Where it is stretched along warp or weft by more than this.',
  schema: z.strictObject({
    kind: z.literal('stretched'),
    beyond: quantity({
      label: 'Beyond',
      help: 'Stretch along warp or weft, where more.',
      unit: '%',
      min: 0.001,
      max: 10,
      default: 0.05,
      step: 0.001,
    }),
  }),
  happens: ({ beyond }, { stretch }) => {
    const of = stretch();
    return (point) => of[point]! > beyond;
  },
});
