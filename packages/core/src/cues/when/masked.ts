import { z } from 'zod';
import { quantity } from '../../quantity/quantity';
import { id } from '../../shot/ids';
import { cueWhen, never } from '../cueWhen';

export const masked = cueWhen({
  label: 'a mask reaches it',
  words: ['mask', 'masked'],
  help: 'Where a mask is above a value: one whose phase is keyed travels over the cloth.',
  schema: z.strictObject({
    kind: z.literal('masked'),
    mask: id.nullable().default(null),
    above: quantity({
      label: 'Above',
      help: 'From this value of the mask on.',
      unit: '%',
      min: 0.001,
      max: 1,
      default: 0.5,
      step: 0.01,
    }),
  }),
  happens: ({ mask, above }, moment) => {
    const values = moment.mask(mask);
    return values ? (point) => values[point]! >= above : never;
  },
});
