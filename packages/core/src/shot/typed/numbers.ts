import { parseQuantity, type Unit } from '../../quantity/units';

// Numbers in a typed line. All throw an Error with a sentence for the artist.

/** Lengths, or other quantities, apart by × or x, each with its own unit; one at the end holds for all that have none. */
export function lengths(text: string, unit: Unit = 'm'): number[] {
  if (text === '') return [];
  const given = text.split(/\s*[×x*]\s*/i);
  const last = /[a-z"'′″]+$/i.exec(given.at(-1)!)?.[0];
  return given.map((part) => number(/[a-z"'′″]$/i.test(part) || !last ? part : `${part} ${last}`, unit));
}

export function angles(text: string): [number, number, number] {
  if (text === '') return [0, 0, 0];
  const values = text.split(',').map((part) => number(part, '°'));
  // One angle turns about the upright axis, as things on a floor are turned.
  return values.length === 1 ? [0, values[0]!, 0] : [values[0]!, values[1] ?? 0, values[2] ?? 0];
}

/** Places from “x, y, z”; with ± one for each combination of signs. */
export function placesOf(text: string): [number, number, number][] {
  const given = text.split(',').map((part) => part.trim());
  if (given.length !== 3) throw new Error('“at” needs three numbers: x, y, z.');
  let places: number[][] = [[]];
  for (const part of given) {
    const both = part.startsWith('±');
    const value = number(both ? part.slice(1) : part, 'm');
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
