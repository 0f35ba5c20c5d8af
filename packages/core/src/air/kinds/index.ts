import { z } from 'zod';
import type { AirKind } from '../airKind';
import { attractor } from './attractor';
import { beam } from './beam';
import { swirl } from './swirl';
import { turbulence } from './turbulence';
import { wind } from './wind';

/** The kinds of air, in the order in which they are offered. To add one: a file here, and a line in this list. */
const ALL = [wind, beam, swirl, turbulence, attractor] as const;

type SchemasOf<List extends readonly unknown[]> = {
  [I in keyof List]: List[I] extends { schema: infer Schema extends z.ZodObject } ? Schema : never;
};

export const airSchema = z.discriminatedUnion(
  'kind',
  ALL.map(({ schema }) => schema) as unknown as SchemasOf<typeof ALL>,
);

export type Air = z.infer<typeof airSchema>;
export type AirKindName = Air['kind'];

/** What is declared of each kind of air. */
export const AIR_KINDS = Object.fromEntries(
  ALL.map((kind) => [kind.schema.shape.kind.value, kind]),
) as unknown as Readonly<Record<AirKindName, AirKind>>;

/** In the order in which they are offered. */
export const AIR_KIND_NAMES = ALL.map(({ schema }) => schema.shape.kind.value) as AirKindName[];
