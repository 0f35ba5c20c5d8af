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
