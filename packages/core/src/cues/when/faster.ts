import { z } from 'zod';
import { quantity } from '../../quantity/quantity';
import { cueWhen, squaredSpeed } from '../cueWhen';

export const faster = cueWhen({
  label: 'it moves faster',
  words: ['faster'],
  help: 'Where points move faster than this.',
  schema: z.strictObject({
    kind: z.literal('faster'),
    than: quantity({
      label: 'Than',
      help: 'Speed in the world.',
      unit: 'm/s',
      min: 0.001,
      max: 200,
      default: 2,
      step: 'ratio',
    }),
  }),
  happens:
    ({ than }, moment) =>
    (point) =>
      squaredSpeed(moment, point) > than * than,
});
