import { z } from 'zod';
import { id } from '../../shot/ids';
import { cueWhen, never } from '../cueWhen';

export const released = cueWhen({
  label: 'it is let go',
  words: ['let go', 'released'],
  help: 'Where points come free of a hold that lets go of one after the other.',
  schema: z.strictObject({ kind: z.literal('released'), hold: id.nullable().default(null) }),
  happens: ({ hold }, { isReleased }) => isReleased(hold) ?? never,
});
