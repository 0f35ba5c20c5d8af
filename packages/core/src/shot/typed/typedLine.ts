import type { Shot } from '../schema';

/** A line that was understood. */
export interface TypedLine {
  /** What was understood, in words, for the artist to see before it is done. */
  summary: string;
  /** Does it, in a recipe of `edit`; returns the ids of new things. */
  apply: (draft: Shot) => string[];
}
