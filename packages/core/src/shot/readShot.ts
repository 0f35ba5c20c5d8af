import type { z } from 'zod';
import { SHOT_FORMAT, SHOT_VERSION, shotSchema, type Shot } from './schema';

/** A shot could not be read. The message is for the artist and names the place in the document. */
export class ShotError extends Error {}

/**
 * Checks a value that should be a shot document, fills in what it leaves out, and upgrades older versions.
 * @throws ShotError naming the path of every value that is unknown or impossible
 */
export function readShot(value: unknown): Shot {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    throw new ShotError('This is not a Lumbra shot: it holds no document.');
  }
  const { format, version } = value as Record<string, unknown>;
  if (format !== SHOT_FORMAT) {
    throw new ShotError(`This is not a Lumbra shot: its format is ${describe(format)}, not “${SHOT_FORMAT}”.`);
  }
  if (version !== SHOT_VERSION) {
    throw new ShotError(
      typeof version === 'number' && version > SHOT_VERSION
        ? `This shot was written by a newer Lumbra (version ${version}; this one reads ${SHOT_VERSION}). Update Lumbra to open it.`
        : `This shot has version ${describe(version)}; Lumbra reads version ${SHOT_VERSION}.`,
    );
  }
  const result = shotSchema.safeParse(value);
  if (!result.success) {
    const problems = result.error.issues.map((issue) => describeIssue(issue));
    const more = problems.length > 5 ? `, and ${problems.length - 5} more` : '';
    throw new ShotError(`This shot cannot be used: ${problems.slice(0, 5).join('; ')}${more}.`);
  }
  return result.data;
}

/** “things[2].fabric.weight: must be at most 5”. */
export function describeIssue(issue: z.core.$ZodIssue): string {
  const path = issue.path.map((key) => (typeof key === 'number' ? `[${key}]` : `.${String(key)}`)).join('');
  return `${path.replace(/^\./, '') || 'document'}: ${issueText(issue)}`;
}

function issueText(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case 'unrecognized_keys':
      return `unknown ${issue.keys.length > 1 ? 'entries' : 'entry'} ${issue.keys.map((key) => `“${key}”`).join(', ')}`;
    case 'too_small':
      return `must be at least ${issue.minimum}`;
    case 'too_big':
      return `must be at most ${issue.maximum}`;
    default:
      return issue.message.charAt(0).toLowerCase() + issue.message.slice(1);
  }
}

function describe(value: unknown): string {
  return value === undefined ? 'missing' : `“${String(value)}”`;
}
