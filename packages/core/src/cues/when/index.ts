import { z } from 'zod';
import type { CueWhen } from '../cueWhen';
import { faster } from './faster';
import { frame } from './frame';
import { masked } from './masked';
import { slower } from './slower';
import { stretched } from './stretched';
import { touch } from './touch';

/** What a cue can wait for, in the order in which it is offered. To add one: a file here, and a line in this list. */
const ALL = [touch, frame, stretched, faster, slower, masked] as const;

type SchemasOf<List extends readonly unknown[]> = {
  [I in keyof List]: List[I] extends { schema: infer Schema extends z.ZodObject } ? Schema : never;
};

export const whenSchema = z.discriminatedUnion(
  'kind',
  ALL.map(({ schema }) => schema) as unknown as SchemasOf<typeof ALL>,
);

export type When = z.infer<typeof whenSchema>;
export type WhenKind = When['kind'];

/** What is declared of each. */
export const CUE_WHENS = Object.fromEntries(
  ALL.map((one) => [one.schema.shape.kind.value, one]),
) as unknown as Readonly<Record<WhenKind, CueWhen>>;

/** In the order in which they are offered. */
export const CUE_WHEN_KINDS = ALL.map(({ schema }) => schema.shape.kind.value) as WhenKind[];
