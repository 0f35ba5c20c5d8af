import { quantitiesOf, type Quantity } from '../../quantity/quantity';
import { formatQuantity } from '../../quantity/units';
import { SHAPES, type Shape, type ShapeKind } from '../shapes';
import { number, valuesOf } from './numbers';

// The sizes of a shape in a typed line: in the order of its declaration, or by their names; what is left out is as in a new one.

/** The numbers of a kind of shape that can be typed, by the names of its schema. */
export function namedSizes(kind: ShapeKind): ReadonlyMap<string, Quantity> {
  return new Map(Object.entries(quantitiesOf(SHAPES[kind].schema)));
}

/**
 * Reads “0.95 × 0.5 × 0.62”, “radius 0.2 height 50 cm” or “diameter 0.4”.
 * @throws Error with a sentence for the artist
 */
export function readSizes(kind: ShapeKind, head: string, text: string): Shape {
  const { sizes, start, schema } = SHAPES[kind];
  const known = namedSizes(kind);
  const named = splitNames(text, known);
  const values = valuesOf(named.row);
  if (values.length > sizes.length) {
    const takes =
      sizes.length === 0 ? 'takes no sizes' : `is typed as ${sizes.map((name) => word(known, name)).join(' × ')}`;
    throw new Error(`A ${head} ${takes}, for example “${example(kind, head)}”.`);
  }
  const given = Object.fromEntries(values.map((value, i) => [sizes[i]!, value]));
  for (const [name, typed] of named.sizes) {
    if (name === 'diameter') given['radius'] = number(typed, 'm') / 2;
    else given[name] = number(typed, known.get(name)!.unit);
  }
  const lengths = ['width', 'height', 'length'].flatMap((name) => given[name] ?? []);
  const spaced = known.has('spacing') && lengths.length > 0 && given['spacing'] === undefined;
  // Cloth of any size has about as many points.
  return schema.parse({
    ...start,
    kind,
    ...given,
    ...(spaced && { spacing: Math.max(...lengths) / 60 }),
  }) as unknown as Shape;
}

/** A line of words for a kind, with the sizes of a new one. */
export function example(kind: ShapeKind, head: string): string {
  const shape = SHAPES[kind].schema.parse({ ...SHAPES[kind].start, kind }) as Record<string, unknown>;
  const numbers = SHAPES[kind].sizes.map((name) => formatQuantity(shape[name] as number, 'm'));
  return [head, numbers.join(' × ')].filter(Boolean).join(' ');
}

const word = (known: ReadonlyMap<string, Quantity>, name: string) => known.get(name)!.label.toLowerCase();

/** Parts the named numbers from those that stand in a row before them. */
export function splitNames(
  text: string,
  known: ReadonlyMap<string, Quantity>,
): { row: string; sizes: [string, string][] } {
  const names = new Map<string, string>();
  for (const [name, { label }] of known) {
    names.set(name.toLowerCase(), name);
    names.set(label.toLowerCase(), name);
  }
  if (known.has('radius')) names.set('diameter', 'diameter');
  // The longest first: “top radius” before “radius”.
  const ordered = [...names.keys()].sort((a, b) => b.length - a.length);
  const pattern = new RegExp(`(?<![a-z])(${ordered.join('|') || '(?!)'})(?![a-z])`, 'gi');
  const parts = text.split(pattern);
  const sizes: [string, string][] = [];
  for (let i = 1; i < parts.length; i += 2) sizes.push([names.get(parts[i]!.toLowerCase())!, bare(parts[i + 1]!)]);
  const row = bare(parts[0]!);
  const unknown = /[a-z]{3,}/i.exec(row.replace(/\d\s*[a-z"'′″]+/gi, ''))?.[0];
  if (unknown) {
    throw new Error(
      `“${unknown}” is no number of it. It has ${[...known.keys()].map((name) => word(known, name)).join(', ')}.`,
    );
  }
  return { row, sizes };
}

/** Without what stands between one size and the next. */
function bare(text: string): string {
  return text
    .trim()
    .replace(/^[=:,]\s*|\s*(?:,|\band\b|×)$/gi, '')
    .trim();
}
