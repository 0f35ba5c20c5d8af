import { namesOf } from '../../run/problemFinder';
import type { BakeReport } from '../../run/report';

/** The columns of the table, by the names of what a frame is told by. */
const COLUMNS = [
  'frame',
  'seconds',
  'substeps',
  'retakes',
  'took',
  'kept',
  'broke',
  'falseStretch',
  'maxStretch',
  'meanStretch',
  'stretchIn',
  'fastest',
  'kineticEnergy',
  'contacts',
  'crossings',
  'pierced',
  'piercedIn',
  'deepest',
  'deepestIn',
  'squeezed',
  'squeezedBetween',
  'fingerprint',
] as const;

/** The frames of a bake as a table: CSV as RFC 4180 has it, in SI units, a row a frame; things by their names. */
export function reportTable({ frames, things }: BakeReport): string {
  const rows = frames.map((frame) =>
    COLUMNS.map((column) => {
      const value = frame[column];
      if (Array.isArray(value)) return cell(namesOf(value, (id) => things[id]));
      return cell(column.endsWith('In') ? things[String(value)] : value);
    }).join(','),
  );
  return [COLUMNS.join(','), ...rows, ''].join('\r\n');
}

function cell(value: unknown): string {
  if (value === null || value === undefined) return '';
  const text = String(value);
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}
