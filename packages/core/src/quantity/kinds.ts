import type { z } from 'zod';

// Lists of kinds of a thing, each declared in a file of its own with a schema that has its name as `kind`.

type Declared = { readonly schema: z.ZodObject };

/** The schemas of a list of kinds. */
export type SchemasOf<List extends readonly unknown[]> = {
  [I in keyof List]: List[I] extends { schema: infer Schema extends z.ZodObject } ? Schema : never;
};

/** The schemas of a list of kinds, as `z.discriminatedUnion` takes them. */
export function schemasOf<const List extends readonly Declared[]>(all: List): SchemasOf<List> {
  return all.map(({ schema }) => schema) as unknown as SchemasOf<List>;
}

/** What is declared of each kind, by its name. */
export function byKind<Name extends string, Kind>(all: readonly Declared[]): Readonly<Record<Name, Kind>> {
  return Object.fromEntries(all.map((kind) => [nameOf(kind), kind])) as unknown as Readonly<Record<Name, Kind>>;
}

/** Their names, in the order of the list. */
export function kindNames<Name extends string>(all: readonly Declared[]): Name[] {
  return all.map((kind) => nameOf(kind) as Name);
}

function nameOf({ schema }: Declared): string {
  return (schema.shape['kind'] as z.ZodLiteral<string>).value;
}
