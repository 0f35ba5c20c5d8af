import { z } from 'zod';
import { quantity } from '../../quantity/quantity';
import { cueWhen } from '../cueWhen';

export const frame = cueWhen({
  label: 'a frame is reached',
  words: ['frame'],
  help: 'From this frame on, to all points.',
  schema: z.strictObject({
    kind: z.literal('frame'),
    frame: quantity({
      label: 'Frame',
      help: 'From this frame on.',
      unit: '',
      min: -10_000,
      max: 100_000,
      default: 24,
      step: 1,
      whole: true,
    }),
  }),
  happens: (when, moment) => () => moment.frame >= when.frame,
});
