import { z } from 'zod';
import { id } from '../../shot/ids';
import { cueWhen, never } from '../cueWhen';

export const inside = cueWhen({
  label: 'it is inside',
  words: ['inside'],
  help: 'Where points come into a thing: a room of scenery that cloth passes through, or the ground’s other side.',
  schema: z.strictObject({ kind: z.literal('inside'), thing: id.nullable().default(null) }),
  happens: ({ thing }, { isInside }) => isInside(thing) ?? never,
});
