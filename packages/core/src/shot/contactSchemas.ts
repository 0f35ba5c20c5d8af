import { z } from 'zod';
import { quantity } from '../quantity/quantity';
import { id, MOST } from './ids';

// The contact table: how a cloth and another thing touch, otherwise than by the numbers of the two.

export const PAIR_SIDES = ['outside', 'inside', 'both'] as const;

/** The numbers that a pair may have of its own; without them it has those of its things. */
export const pairNumbers = {
  clearance: quantity({
    label: 'Clearance',
    help: 'How far the two keep apart: cloth from a surface, besides half its thickness, or the middles of two cloths.',
    unit: 'mm',
    min: 0,
    max: 0.1,
    default: 0.003,
    step: 0.0005,
  }),
  friction: quantity({
    label: 'Friction',
    help: 'How well the two grip each other, whatever each of them grips otherwise.',
    unit: '',
    min: 0,
    max: 2,
    default: 0.4,
    step: 0.01,
  }),
} as const;

export const contactSchema = z.strictObject({
  between: z.tuple([id, id]).describe('Ids of a cloth and of a collider or another cloth.'),
  touches: z.boolean().default(true).describe('Whether the two touch; else they pass through each other.'),
  clearance: pairNumbers.clearance.unwrap().nullable().default(null).describe('In m; null is as the things have it.'),
  friction: pairNumbers.friction.unwrap().nullable().default(null).describe('Null is as the things have it.'),
  side: z
    .enum(PAIR_SIDES)
    .nullable()
    .default(null)
    .describe('The side of the collider that counts for this cloth; null is as the collider has it.'),
});

export const contactsSchema = z
  .array(contactSchema)
  .max(MOST.contacts)
  .superRefine((contacts, context) => {
    const seen = new Set<string>();
    contacts.forEach(({ between: [a, b] }, i) => {
      const key = [a, b].sort().join(' ');
      if (a === b)
        context.addIssue({ code: 'custom', path: [i, 'between'], message: 'a cloth is no pair with itself' });
      if (seen.has(key))
        context.addIssue({ code: 'custom', path: [i, 'between'], message: 'this pair stands here twice' });
      seen.add(key);
    });
  });

export type Contact = z.infer<typeof contactSchema>;
