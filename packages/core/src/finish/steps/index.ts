import { z } from 'zod';
import { byKind, kindNames, schemasOf } from '../../quantity/kinds';
import { id } from '../../shot/ids';
import type { FinishStep } from '../finishStep';
import { carry } from './carry';
import { lattice } from './lattice';
import { lift } from './lift';
import { print } from './print';
import { relax } from './relax';
import { retime } from './retime';
import { smooth } from './smooth';
import { subdivide } from './subdivide';
import { thicken } from './thicken';

/** The kinds of finishing step, in the order in which they are offered. To add one: a file here, and a line in this list. */
const ALL = [subdivide, smooth, relax, lattice, thicken, lift, carry, print, retime] as const;

const kindSchema = z.discriminatedUnion('kind', schemasOf(ALL));

/** A step of a cloth's finish list. */
export const finishEntrySchema = z.strictObject({
  id,
  on: z.boolean().default(true).describe('Whether it is done.'),
  mask: id.nullable().default(null).describe('Id of the mask that says how much of the step each point takes.'),
  step: kindSchema,
});

export type FinishEntry = z.infer<typeof finishEntrySchema>;
export type StepOf = FinishEntry['step'];
export type FinishKind = StepOf['kind'];

/** What is declared of each kind of step. */
export const FINISH_STEPS = byKind<FinishKind, FinishStep>(ALL);

/** In the order in which they are offered. */
export const FINISH_KINDS = kindNames<FinishKind>(ALL);
