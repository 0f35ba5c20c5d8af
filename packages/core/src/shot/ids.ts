import { z } from 'zod';

/**
 * What ids are made of. Files and folders are named after them and they stand in the paths of zips, so nothing that a file system or an
 * address would read as more than a name is let in.
 */
export const ID_PATTERN = /^[A-Za-z0-9_-]{1,64}$/;

export const id = z
  .string()
  .regex(ID_PATTERN, 'must be an id: 1 to 64 letters, digits, “-” or “_”')
  .describe('Letters, digits, “-” and “_” only.');

/** How many of a kind a shot may hold. Far more than any shot needs, and few enough to be read at once. */
export const MOST = {
  things: 2000,
  holds: 1000,
  masks: 500,
  tracks: 1000,
  contacts: 5000,
  cues: 1000,
  /** Steps of a finish list. */
  finish: 30,
  knots: 50_000,
  /** Points of one mesh that can be held or masked. */
  points: 1_000_000,
} as const;
