import { z } from 'zod';
import { whenSchema } from '../cues/when';
import { SCALED_NUMBERS } from '../fabric/faceScales';
import { fabricSchema, type FabricNumber } from '../fabric/fabric';
import { lookOnly, quantity, quantityOf } from '../quantity/quantity';
import { id } from './ids';

/** What a cue can change while a run goes on: what masks can scale. */
export const CUED_NUMBERS = SCALED_NUMBERS;

export const cueNumbers = {
  over: quantity({
    label: 'Frames it takes',
    help: 'From where it is to where it goes.',
    unit: '',
    min: 1,
    max: 5000,
    default: 12,
    step: 1,
    whole: true,
  }),
  spread: quantity({
    label: 'Spread',
    help: 'How far around what it happens to the change reaches, along the cloth.',
    unit: 'mm',
    min: 0,
    max: 10,
    default: 0,
    step: 0.005,
  }),
} as const;

export const cueSchema = z
  .strictObject({
    id,
    name: lookOnly(z.string().min(1).max(120)),
    enabled: z.boolean().default(true),
    when: whenSchema,
    of: id
      .nullable()
      .default(null)
      .describe(
        'The thing whose number changes, the cloth itself for a hold of it; null for its fabric, which changes where it happens.',
      ),
    number: z
      .string()
      .min(1)
      .max(120)
      .describe('The number that changes: stretchWarp, hold:abc.strength, friction, air.speed.'),
    to: z.number().describe('Where it goes, in SI units.'),
    ...cueNumbers,
    onAll: z.boolean().default(false).describe('As soon as it happens to any point, the number changes everywhere.'),
    lasts: z.boolean().default(false).describe('The number goes back where it happens no more; else once is enough.'),
  })
  .superRefine(({ of, number, to }, context) => {
    if (of !== null) return;
    if (!(CUED_NUMBERS as readonly string[]).includes(number)) {
      const message = `must be one of ${CUED_NUMBERS.join(', ')}`;
      return context.addIssue({ code: 'custom', path: ['number'], message });
    }
    const { min, max } = quantityOf(fabricSchema.shape[number as FabricNumber])!;
    if (!(to >= min && to <= max))
      context.addIssue({ code: 'custom', path: ['to'], message: `must be from ${min} to ${max}` });
  });

export type Cue = z.infer<typeof cueSchema>;
