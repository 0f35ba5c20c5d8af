import { z } from 'zod';
import { id } from '../../shot/ids';
import type { FinishStep } from '../finishStep';
import { relax } from './relax';
import { smooth } from './smooth';
import { subdivide } from './subdivide';
import { thicken } from './thicken';

/** The kinds of finishing step, in the order in which they are offered. To add one: a file here, and a line in this list. */
const ALL = [subdivide, smooth, relax, thicken] as const;

type SchemasOf<List extends readonly unknown[]> = {
  [I in keyof List]: List[I] extends { schema: infer Schema extends z.ZodObject } ? Schema : never;
};

const kindSchema = z.discriminatedUnion('kind', ALL.map(({ schema }) => schema) as unknown as SchemasOf<typeof ALL>);

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
export const FINISH_STEPS = Object.fromEntries(
  ALL.map((kind) => [kind.schema.shape.kind.value, kind]),
) as unknown as Readonly<Record<FinishKind, FinishStep>>;

/** In the order in which they are offered. */
export const FINISH_KINDS = ALL.map(({ schema }) => schema.shape.kind.value) as FinishKind[];
