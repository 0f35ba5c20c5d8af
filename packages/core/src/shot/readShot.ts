import type { z } from 'zod';
import { SHOT_FORMAT, SHOT_VERSION, shotSchema, type Shot } from './schema';
import { UpgradeError } from './upgrades';
import { UPGRADE_DEFAULTS, upgradeDocument } from './upgrades/upgradeDocument';

/** A shot could not be read. The message is for the artist and names the place in the document. */
export class ShotError extends Error {}

/**
 * Checks a value that should be a shot document, fills in what it leaves out, and upgrades older versions.
 * @throws ShotError naming the path of every value that is unknown or impossible
 */
export function readShot(given: unknown, options = UPGRADE_DEFAULTS): Shot {
  if (typeof given !== 'object' || given === null || Array.isArray(given)) {
    throw new ShotError('This is not a Lumbra shot: it holds no document.');
  }
  const value = upgraded(given as Record<string, unknown>, options);
  const { format, version } = value;
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

function upgraded(given: Record<string, unknown>, options: typeof UPGRADE_DEFAULTS): Record<string, unknown> {
  try {
    return given['format'] === SHOT_FORMAT ? upgradeDocument(given, options) : given;
  } catch (error) {
    if (error instanceof UpgradeError) throw new ShotError(`This shot cannot be used: ${error.message}.`);
    throw new ShotError(
      `This shot of version ${describe(given['version'])} is damaged: it cannot be brought up to date.`,
    );
  }
}

/** “things[2].fabric.weight: must be at most 5”. */
export function describeIssue(issue: z.core.$ZodIssue): string {
  const path = issue.path.map((key) => (typeof key === 'number' ? `[${key}]` : `.${String(key)}`)).join('');
  return `${path.replace(/^\./, '') || 'document'}: ${issueText(issue)}`;
}

/** What a value should be, in words. */
const KINDS: Record<string, string> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  tuple: 'a list',
  object: 'an object with entries',
  record: 'an object with entries',
};

function issueText(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.message.endsWith('undefined') ? 'is missing' : `must be ${KINDS[issue.expected] ?? issue.expected}`;
    case 'invalid_value':
      return `must be ${issue.values.map((value) => `“${String(value)}”`).join(' or ')}`;
    case 'invalid_union':
      return 'is none of the kinds that there are';
    case 'invalid_key':
      return 'is no name that an entry can have';
    case 'unrecognized_keys':
      return `unknown ${issue.keys.length > 1 ? 'entries' : 'entry'} ${issue.keys.map((key) => `“${key.slice(0, 40)}”`).join(', ')}`;
    case 'too_small':
      return `must be at least ${issue.minimum}`;
    case 'too_big':
      return `must be at most ${issue.maximum}`;
    default:
      return issue.message.charAt(0).toLowerCase() + issue.message.slice(1);
  }
}

function describe(value: unknown): string {
  if (value === undefined) return 'missing';
  // Whatever stands there, of any length.
  const text = typeof value === 'string' ? value : (JSON.stringify(value) ?? typeof value);
  return `“${text.length > 40 ? `${text.slice(0, 40)}…` : text}”`;
}
