import { z } from 'zod';
import { quantity } from '../../quantity/quantity';
import { finishStep, sameFaces } from '../finishStep';

export const retime = finishStep({
  label: 'Retime',
  help: 'Slower or faster than it was baked, from the first frame on. Frames between those of the take are made smoothly; other things keep their pace.',
  schema: z.strictObject({
    kind: z.literal('retime'),
    speed: quantity({
      label: 'Speed',
      help: 'At 40 % it takes two and a half times as long. Keyed, it can slow down for a moment; at 0 % it stands still.',
      unit: '%',
      min: 0,
      max: 20,
      default: 0.5,
      step: 0.01,
      keyable: true,
    }),
  }),
  retimes: true,
  build: (mesh) => sameFaces(mesh, (positions) => positions),
});
