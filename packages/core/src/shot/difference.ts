import type { Patch } from 'immer';
import type { Edit } from './edit';

type Path = (string | number)[];

/**
 * The edit that leads from one document to another: as few patches as the values in which they differ. Parts that both share are not
 * looked at, so that it costs what has changed. Lists of another length are put in whole.
 */
export function difference(label: string, before: object, after: object): Edit {
  const [forward, backward]: [Patch[], Patch[]] = [[], []];
  compare(before, after, [], forward, backward);
  return { label, forward, backward };
}

function compare(before: unknown, after: unknown, path: Path, forward: Patch[], backward: Patch[]): void {
  if (Object.is(before, after)) return;
  const lists = Array.isArray(before) && Array.isArray(after) && before.length === after.length;
  if (lists || (isRecord(before) && isRecord(after))) {
    const [a, b] = [before as Record<string, unknown>, after as Record<string, unknown>];
    for (const key of new Set([...Object.keys(a), ...Object.keys(b)])) {
      const at = [...path, lists ? Number(key) : key];
      if (!(key in b)) {
        forward.push({ op: 'remove', path: at });
        backward.push({ op: 'add', path: at, value: a[key] });
      } else if (!(key in a)) {
        forward.push({ op: 'add', path: at, value: b[key] });
        backward.push({ op: 'remove', path: at });
      } else compare(a[key], b[key], at, forward, backward);
    }
    return;
  }
  forward.push({ op: 'replace', path, value: after });
  backward.push({ op: 'replace', path, value: before });
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
