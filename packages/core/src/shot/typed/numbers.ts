import { parseQuantity, type Unit } from '../../quantity/units';

// Numbers in a typed line. All throw an Error with a sentence for the artist.

/** What stands between numbers of a row: commas, ×, x, * and “by”; spaces are enough. */
const BETWEEN = /\s*(?:[,;×*]|(?<![a-z])x(?![a-z])|(?<![a-z])by(?![a-z]))\s*/gi;
const NUMBER = /[±+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?/i;
const TOKEN = new RegExp(`^(${NUMBER.source})\\s*([^\\d\\s±+.-][^\\s\\d±+-]*(?:(?<=m|\\^)[23])?)?`, 'i');

export interface TypedNumber {
  value: number;
  /** Whether it was typed with “±”. */
  both: boolean;
}

/**
 * The numbers of a row, apart by ×, x, “by”, commas or spaces, each with its own unit; one at the end holds for all that have none. In SI.
 */
export function numbersOf(text: string, unit: Unit): TypedNumber[] {
  // Between digits an x may stand without spaces: “2x3”.
  const row = text
    .replace(/(?<=\d)x(?=[\d.])/gi, ' ')
    .replace(BETWEEN, ' ')
    .trim();
  const found: { digits: string; unit: string }[] = [];
  for (let rest = row; rest !== '';) {
    const match = TOKEN.exec(rest);
    if (!match) throw new Error(`“${rest}” is not a number.`);
    found.push({ digits: match[1]!, unit: match[2] ?? '' });
    rest = rest.slice(match[0].length).trimStart();
  }
  const last = found.at(-1)?.unit ?? '';
  return found.map(({ digits, unit: own }) => ({
    value: number(`${digits.replace('±', '')} ${own || last}`, unit),
    both: digits.startsWith('±'),
  }));
}

/** The values of a row of numbers; see `numbersOf`. */
export function valuesOf(text: string, unit: Unit = 'm'): number[] {
  return numbersOf(text, unit).map(({ value }) => value);
}

export function angles(text: string): [number, number, number] {
  const values = valuesOf(text, '°');
  // One angle turns about the upright axis, as things on a floor are turned.
  return values.length === 1 ? [0, values[0]!, 0] : [values[0] ?? 0, values[1] ?? 0, values[2] ?? 0];
}

/** Places from “x, y, z” or “x y z”; with ± one for each combination of signs. In m. */
export function placesOf(text: string): [number, number, number][] {
  const given = numbersOf(text, 'm');
  if (given.length !== 3) throw new Error('“at” needs three numbers: x, y, z.');
  let places: number[][] = [[]];
  for (const { value, both } of given) {
    places = places.flatMap((place) => (both ? [-value, value] : [value]).map((v) => [...place, v]));
  }
  return places as [number, number, number][];
}

/** One number, in its own unit or the given one. */
export function number(text: string, unit: Unit, missing?: string): number {
  if (text.trim() === '' && missing) throw new Error(missing);
  const parsed = parseQuantity(text, unit);
  if (!parsed.ok) throw new Error(parsed.reason);
  return parsed.value;
}
