import { z } from 'zod';
import type { Unit } from './units';

/** All that the interface needs to show and edit a number; the same declaration validates it in the document. */
export interface Quantity {
  label: string;
  /** One line: what it does, in plain words. */
  help: string;
  unit: Unit;
  /** Limits and default in SI. */
  min: number;
  max: number;
  default: number;
  /** Change per pixel of dragging and per arrow key, in SI; numbers over wide ranges move by ratio instead. */
  step: number | 'ratio';
  whole?: boolean;
  /** Whether it may change over the shot. */
  keyable?: boolean;
  /** Whether a mask can scale it place by place. */
  maskable?: boolean;
  /** Under which heading it stands in its form; those without one stand first. */
  group?: string;
  /** What a change of it costs: a new run, or only another look. A run is the default. */
  affects?: 'run' | 'look';
}

const declared = z.registry<Quantity>();

/** A schema for a number that knows how it is shown. Not-a-number and infinity are refused. */
export function quantity(q: Quantity): z.ZodDefault<z.ZodNumber> {
  const bounded = z.number().min(q.min).max(q.max);
  const schema = (q.whole ? bounded.int() : bounded).default(q.default).describe(`${q.label}. ${q.help} In SI units.`);
  declared.add(schema, q);
  return schema;
}

/** The declaration behind a schema made by `quantity`, else undefined. */
export function quantityOf(schema: z.core.$ZodType): Quantity | undefined {
  return declared.get(schema as z.ZodDefault<z.ZodNumber>);
}

/** The quantities among the entries of a schema, by name and in their order. */
export function quantitiesOf(schema: { shape: object }): Readonly<Record<string, Quantity>> {
  const found = Object.entries(schema.shape as Record<string, z.core.$ZodType>).flatMap(([name, entry]) => {
    const one = quantityOf(entry);
    return one ? [[name, one] as const] : [];
  });
  return Object.fromEntries(found);
}

/** Those that may be keyed. */
export function keyableOf(schema: { shape: object }): Readonly<Record<string, Quantity>> {
  return Object.fromEntries(Object.entries(quantitiesOf(schema)).filter(([, { keyable }]) => keyable));
}

const looks = z.registry<{ look: true }>();

/** Marks an entry of a document that no run depends on: what it is called, how it is coloured, whether it is shown. */
export function lookOnly<Schema extends z.ZodType>(schema: Schema): Schema {
  looks.add(schema, { look: true });
  return schema;
}

/** Whether a run depends on an entry of a document. */
export function affectsRun(schema: z.core.$ZodType): boolean {
  return !looks.has(schema as z.ZodType) && quantityOf(schema)?.affects !== 'look';
}
