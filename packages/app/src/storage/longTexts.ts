import { textHash } from '@lumbra/core';

// A mask is a text of a byte a point in base64. So that neither a shot nor its undo list writes it again and again, texts that are
// long are kept by themselves, once for each shot, and named by their hash.

const LONG = 1000;

/** A document or an edit in which `{ $text: hash }` stands for each long text. */
export type Lifted = Record<string, unknown>;

/** Lifts the long texts out of a value; they come back by their hashes. */
export function liftTexts<T extends object>(value: T): { lifted: Lifted & T; texts: Map<string, string> } {
  const texts = new Map<string, string>();
  const lift = (one: unknown): unknown => {
    if (typeof one === 'string' && one.length >= LONG) {
      const hash = textHash(one);
      texts.set(hash, one);
      return { $text: hash };
    }
    if (typeof one !== 'object' || one === null) return one;
    // Lists of numbers hold no texts, and are the longest lists that there are.
    if (Array.isArray(one)) return typeof one[0] === 'number' ? one : one.map(lift);
    return Object.fromEntries(Object.entries(one).map(([key, entry]) => [key, lift(entry)]));
  };
  return { lifted: lift(value) as Lifted & T, texts };
}

/** Puts the texts back; one that is missing becomes empty, so that its mask is lost and nothing else. */
export function lowerTexts(value: Lifted, texts: ReadonlyMap<string, string>): Record<string, unknown> {
  const lower = (one: unknown): unknown => {
    if (typeof one !== 'object' || one === null) return one;
    if (Array.isArray(one)) return typeof one[0] === 'number' ? one : one.map(lower);
    const entries = Object.entries(one);
    if (entries.length === 1 && entries[0]![0] === '$text') return texts.get(entries[0]![1] as string) ?? '';
    return Object.fromEntries(entries.map(([key, entry]) => [key, lower(entry)]));
  };
  return lower(value) as Record<string, unknown>;
}
