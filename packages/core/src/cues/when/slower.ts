import { z } from 'zod';
import { quantity } from '../../quantity/quantity';
import { cueWhen, squaredSpeed } from '../cueWhen';

export const slower = cueWhen({
  label: 'it moves slower',
  words: ['slower'],
  help: 'Where points move slower than this.',
  schema: z.strictObject({
    kind: z.literal('slower'),
    than: quantity({
      label: 'Than',
      help: 'Speed in the world.',
      unit: 'm/s',
      min: 0.001,
      max: 200,
      default: 0.02,
      step: 'ratio',
    }),
  }),
  happens:
    ({ than }, moment) =>
    (point) =>
      squaredSpeed(moment, point) < than * than,
});
