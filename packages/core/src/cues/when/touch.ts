import { z } from 'zod';
import { quantity } from '../../quantity/quantity';
import { id } from '../../shot/ids';
import { cueWhen, never } from '../cueWhen';

export const touch = cueWhen({
  label: 'it touches',
  words: ['touches', 'touch', 'near'],
  help: 'Where points come to a thing, or near it.',
  schema: z.strictObject({
    kind: z.literal('touch'),
    thing: id.nullable().default(null),
    within: quantity({
      label: 'Within',
      help: 'So far from where the thing stops cloth it counts as touched. A lamp warms from farther away.',
      unit: 'mm',
      min: 0.0005,
      max: 10,
      default: 0.005,
      step: 'ratio',
    }),
  }),
  happens: ({ thing, within }, { distanceTo }) => {
    const distance = distanceTo(thing, within);
    return distance ? (point) => distance(point) <= within : never;
  },
});
